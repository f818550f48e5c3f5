/** A figure as an issued pack shows it. */
export type IssuedFigure = {
  /** the section's id and title */
  readonly section: string;
  readonly title: string;
  /** unique within the section, with what it is called */
  readonly line: string;
  readonly lineName: string;
  readonly column: string;
  readonly heading: string;
  /** as shown; empty for blank */
  readonly text: string;
  /** in minor units; null for what is no amount */
  readonly amount: number | null;
};
/** A figure that two issues of a pack show differently; null where one does not show it at all. */
export type IssueChange = {
  readonly title: string;
  readonly lineName: string;
  readonly heading: string;
  readonly before: string | null;
  readonly after: string | null;
  /** in minor units; null unless both are amounts */
  readonly difference: number | null;
};

const placeOf = ({ section, line, column }: IssuedFigure): string => JSON.stringify([section, line, column]);

/**
 * What a later issue of a pack shows differently, in the order of the later one; figures that it no longer shows come
 * last, in the order of the earlier one. A figure that is blank in one and absent from the other is no change.
 */
export function issueChanges(before: readonly IssuedFigure[], after: readonly IssuedFigure[]): IssueChange[] {
  const earlier = new Map(before.map((figure) => [placeOf(figure), figure]));
  const changes: IssueChange[] = [];
  for (const figure of after) {
    const place = placeOf(figure);
    const old = earlier.get(place);
    earlier.delete(place);
    if ((old?.text ?? '') === figure.text && (!old || old.amount === figure.amount)) continue;
    changes.push(changeOf(figure, { before: old ?? null, after: figure }));
  }
  for (const figure of earlier.values()) if (figure.text !== '') changes.push(changeOf(figure, { before: figure, after: null }));
  return changes;
}

function changeOf(
  { title, lineName, heading }: IssuedFigure,
  { before, after }: { readonly before: IssuedFigure | null; readonly after: IssuedFigure | null },
): IssueChange {
  const amounts = [before?.amount ?? null, after?.amount ?? null];
  const difference = amounts[0] === null || amounts[1] === null ? null : amounts[1]! - amounts[0]!;
  return { title, lineName, heading, before: before?.text ?? null, after: after?.text ?? null, difference };
}
