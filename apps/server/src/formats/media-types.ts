/** The media type of spreadsheets (Office Open XML, ECMA-376). */
export const WORKBOOK_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
