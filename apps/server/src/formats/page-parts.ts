/** A column as it takes its place on paper. */
export type PaperColumn = { readonly block: number; readonly width: number };

/**
 * Breaks columns over pages of a width: as many as fit, a block kept whole where a page can hold it.
 * @param room what is left of the page beside the line names
 * @returns positions of the columns of each part, in order; one part without columns when there are none
 */
export function pageParts(columns: readonly PaperColumn[], room: number): number[][] {
  const parts: number[][] = [[]];
  let left = room;
  columns.forEach(({ block, width }, position) => {
    const startsBlock = columns[position - 1]?.block !== block;
    const wholeBlock = columns.reduce((sum, each) => sum + (each.block === block ? each.width : 0), 0);
    const needed = startsBlock && wholeBlock <= room ? wholeBlock : width;
    if (needed > left && parts.at(-1)!.length > 0) {
      parts.push([]);
      left = room;
    }
    parts.at(-1)!.push(position);
    left -= width;
  });
  return parts;
}
