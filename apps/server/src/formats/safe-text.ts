/** A text that a spreadsheet would run as a formula is written with an apostrophe before it. */
export const safeText = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);
/** A text that was written safely, as it was. */
export const plainText = (text: string): string => (/^'[=+\-@\t\r]/.test(text) ? text.slice(1) : text);
