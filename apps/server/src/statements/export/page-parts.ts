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

/** The lines of each page, as positions from and up to. */
export type PageRows = { readonly from: number; readonly to: number };

/**
 * Breaks rows over pages: as many as fit. Where the last page would hold a few alone, the last rows go there together.
 * @param heights of the rows, in order
 * @param first room for rows on the first page; every other has `next`
 * @param together how many rows at the end stay together; shorter statements are broken as they come
 * @returns at least one page; a row higher than a page has one for itself
 */
export function pageRows(
  heights: readonly number[],
  { first, next, together }: { readonly first: number; readonly next: number; readonly together: number },
): PageRows[] {
  const starts = [0];
  let left = first;
  heights.forEach((height, row) => {
    if (height > left && row > starts.at(-1)!) {
      starts.push(row);
      left = next;
    }
    left -= height;
  });
  const last = starts.at(-1)!;
  const wanted = heights.length - together;
  const before = starts.at(-2);
  if (before !== undefined && last > wanted && wanted > before + together) {
    const height = heights.slice(wanted).reduce((sum, each) => sum + each, 0);
    if (height <= next) starts[starts.length - 1] = wanted;
  }
  return starts.map((from, index) => ({ from, to: starts[index + 1] ?? heights.length }));
}
