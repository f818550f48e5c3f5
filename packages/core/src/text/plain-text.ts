// what no text holds: control characters (line breaks and tabs are not among them), marks that turn the direction of writing, and byte-order marks inside a text
const CONTROLS = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/;
const ALL_CONTROLS = new RegExp(CONTROLS.source, 'g');

/** The longest name: of an account, a dimension's value, a customer or vendor, a file. */
export const MOST_IN_NAME = 200;

/** The first character of a text that cannot be shown, as `U+202E`; null when every one can. */
export function controlIn(text: string): string | null {
  const found = CONTROLS.exec(text);
  return found ? `U+${found[0].codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}` : null;
}

/** A text without characters that cannot be shown. */
export const withoutControls = (text: string): string => text.replaceAll(ALL_CONTROLS, '');
