/** A typed percentage without its sign: `3%` and `3%` give `3`. Takes time in proportion to the text. */
export function withoutPercentSign(text: string): string {
  const trimmed = text.trim();
  return trimmed.endsWith('%') ? trimmed.slice(0, -1).trimEnd() : trimmed;
}
