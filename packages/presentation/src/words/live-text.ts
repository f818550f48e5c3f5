import type { LiveTextDto } from '@wise-margin/contract';

const FIELD = /\{([a-zA-Z]+(?::[^{}]{1,200})?)\}/g;

/** The fields in a text, such as `variance` and `lines:12,13`. */
export const fieldsOf = (template: string): string[] => [...template.matchAll(FIELD)].map((match) => match[1]!);

/**
 * A text with its fields filled in. A field that means nothing is left as it stands.
 * @param valueOf what a field shows now; null for one that means nothing
 * @param accepted what each field showed when the text was accepted
 */
export function liveText(
  template: string,
  valueOf: (field: string) => string | null,
  accepted: Readonly<Record<string, string>> = {},
): LiveTextDto {
  const segments: LiveTextDto['segments'] = [];
  let from = 0;
  for (const match of template.matchAll(FIELD)) {
    const field = match[1]!;
    const value = valueOf(field);
    if (value === null) continue;
    if (match.index > from) segments.push({ text: template.slice(from, match.index), field: null, was: null });
    const was = accepted[field];
    segments.push({ text: value, field, was: was !== undefined && was !== value ? was : null });
    from = match.index + match[0].length;
  }
  if (from < template.length) segments.push({ text: template.slice(from), field: null, was: null });
  return { template, segments };
}

/** A text as it reads. */
export const plainTextOf = ({ segments }: LiveTextDto): string => segments.map(({ text }) => text).join('');
