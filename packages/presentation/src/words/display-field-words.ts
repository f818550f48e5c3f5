import type { DisplayField } from '@wise-margin/core';

/** What the fields of titles and footnotes are called. */
export const DISPLAY_FIELD_WORDS: Readonly<Record<DisplayField, string>> = {
  company: 'Company',
  as_of: 'As-of month',
  printed_on: 'Print date',
  view: 'View name',
  budget: 'Budget name',
  currency: 'Currency',
};
