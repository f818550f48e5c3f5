import { DISPLAY_FIELDS, type DisplayField } from '@wise-margin/core';
import { DISPLAY_FIELD_WORDS } from '@wise-margin/presentation';

/** The fields that headings, names, titles and footnotes are filled in with, by the words they are shown as. */
const FIELD_WORDS = {
  span: 'Period',
  date: 'Date',
  value: 'Value',
  all: 'All values',
  group: 'Account group',
  ...DISPLAY_FIELD_WORDS,
} satisfies Readonly<Record<DisplayField | 'span' | 'date' | 'value' | 'all' | 'group', string>>;
export type TextField = keyof typeof FIELD_WORDS;
export const PAGE_FIELDS: readonly TextField[] = DISPLAY_FIELDS;

export const fieldWords = (field: TextField): string => FIELD_WORDS[field];
const isField = (name: string): name is TextField => Object.hasOwn(FIELD_WORDS, name);
/** How a field is shown in a text that is edited; the marks are on no keyboard, so that no name is taken for one. */
export const shownField = (field: TextField): string => `‹${FIELD_WORDS[field]}›`;

/** A stored text as it is edited: `Total, {span}` reads `Total, ‹Period›`. */
export const textWithWords = (text: string): string =>
  text.replaceAll(/\{(\w+)\}/g, (whole, name: string) => (isField(name) ? shownField(name) : whole));

/** An edited text as it is stored; what is in no field's words stays as typed. */
export const textWithFields = (shown: string): string =>
  shown.replaceAll(/‹([^‹›]*)›/g, (whole, words: string) => {
    const field = (Object.keys(FIELD_WORDS) as TextField[]).find((each) => FIELD_WORDS[each].toLowerCase() === words.trim().toLowerCase());
    return field ? `{${field}}` : whole;
  });

/** A stored text as a name in lists and for screen readers: `Total, Period`. */
export const textAsName = (text: string): string =>
  text.replaceAll(/\{(\w+)\}/g, (whole, name: string) => (isField(name) ? FIELD_WORDS[name] : whole));
