/** The media type of spreadsheets (Office Open XML, ECMA-376). */
export const WORKBOOK_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
export const PDF_TYPE = 'application/pdf';
/** Of word-processor documents (Office Open XML, ECMA-376). */
export const WORD_TYPE = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';
export const HTML_TYPE = 'text/html; charset=utf-8';
/** Of a mail message in a file (RFC 5322). */
export const EML_TYPE = 'message/rfc822';
