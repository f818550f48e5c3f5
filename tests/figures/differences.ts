/** Numbers of each answer, by the name of the request. */
export type Figures = Readonly<Record<string, readonly (number | null)[]>>;

/** Every number and null of an answer, in the order they are sent; a number sent as text counts. */
export function numbersOf(answer: unknown): (number | null)[] {
  if (answer === null || typeof answer === 'number') return [answer];
  if (typeof answer === 'string') return /^-?\d+(\.\d+)?$/.test(answer) ? [Number(answer)] : [];
  if (typeof answer === 'object') return Object.values(answer).flatMap(numbersOf);
  return [];
}

/** The first place where two sets of figures differ, for each request that differs. */
export function differences(before: Figures, after: Figures): string[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((name) => {
    const [was, is] = [before[name], after[name]];
    if (!was || !is) return [`${name}: only ${was ? 'before' : 'after'}`];
    const place = was.findIndex((value, index) => value !== is[index]);
    if (place >= 0) return [`${name}: figure ${place + 1} was ${was[place]} and is ${is[place]}`];
    return was.length === is.length ? [] : [`${name}: ${was.length} figures before, ${is.length} after`];
  });
}
