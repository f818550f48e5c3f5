/**
 * The day of the month, 1 to 31, of a day counted from 1970-01-01, by the proleptic Gregorian calendar.
 * Source of the arithmetic: "chrono-Compatible Low-Level Date Algorithms", civil_from_days.
 * @example dayOfMonth(0) // 1
 */
export function dayOfMonth(day: number): number {
  const shifted = day + 719_468;
  const ofEra = shifted - Math.floor(shifted / 146_097) * 146_097;
  const yearOfEra = Math.floor((ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365);
  const ofYear = ofEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const month = Math.floor((5 * ofYear + 2) / 153);
  return ofYear - Math.floor((153 * month + 2) / 5) + 1;
}
