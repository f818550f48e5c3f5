const NAME = /[a-z_][a-z0-9_.]*/gi;

/** A formula with one name put in place of another wherever it stands whole; all else stays as it was written. */
export function renameInExpression(source: string, from: string, to: string): string {
  return source.replaceAll(NAME, (name) => (name === from ? to : name));
}
