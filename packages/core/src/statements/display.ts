import type { DisplayUnit } from '../money/format-amount.ts';

/** How a statement is laid out and written; nothing of it changes a figure but `foots`. */
export type Display = {
  readonly unit: DisplayUnit;
  /** of amounts in their unit; null is as the unit has it by default */
  readonly decimals: number | null;
  readonly negatives: 'parentheses' | 'minus' | 'red';
  /** the currency sign before the first figure of a column and before its totals */
  readonly currencySign: boolean;
  readonly zeroLines: 'hide' | 'show';
  readonly accountNumbers: boolean;
  /** columns that show lines as a percent of a base */
  readonly shares: boolean;
  /** one column of lines, or two sides */
  readonly form: 'report' | 'account';
  /** rounded parts are made to add up to their rounded totals */
  readonly foots: boolean;
  readonly logo: boolean;
  /** in place of the view's name; may hold fields, as the subtitle and footnotes may */
  readonly title: string;
  readonly subtitle: string;
  readonly footnotes: readonly string[];
};

export const DEFAULT_DISPLAY: Display = {
  unit: 'dollars',
  decimals: null,
  negatives: 'parentheses',
  currencySign: false,
  zeroLines: 'hide',
  accountNumbers: true,
  shares: true,
  form: 'report',
  foots: false,
  logo: false,
  title: '',
  subtitle: '',
  footnotes: [],
};

/** The names that titles and footnotes may hold in braces. */
export const DISPLAY_FIELDS = ['company', 'as_of', 'printed_on', 'view', 'budget', 'currency'] as const;
export type DisplayField = (typeof DISPLAY_FIELDS)[number];

/** A text with its fields filled in; names that are no fields stay as typed and are listed. */
export type FilledText = { readonly text: string; readonly unknown: readonly string[] };

/**
 * Fills `{company}`, `{as_of}`, `{printed_on}` and the like into a title, subtitle or footnote.
 * @example fillFields('{quarter}', {}).text // '{quarter}'
 */
export function fillFields(text: string, values: Readonly<Record<DisplayField, string>>): FilledText {
  const unknown: string[] = [];
  const filled = text.replaceAll(/\{([^{}]*)\}/g, (whole, name: string) => {
    if (Object.hasOwn(values, name)) return values[name as DisplayField];
    unknown.push(name);
    return whole;
  });
  return { text: filled, unknown };
}
