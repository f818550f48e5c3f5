const DAY = { year: 'numeric', month: 'short', day: 'numeric' } as const;

/** A date as every screen writes it: `Nov 27, 2026`. An ISO date stands for that day wherever the reader is; empty gives empty. */
export function dateWords(iso: string | null | undefined): string {
  if (!iso) return '';
  const isDay = iso.length === 10;
  return new Date(iso).toLocaleDateString('en-US', isDay ? { ...DAY, timeZone: 'UTC' } : DAY);
}

/** The last day of a month given as `2026-10`: `Oct 31, 2026`. */
export function monthEndWords(key: string): string {
  const [year, month] = key.split('-').map(Number);
  return dateWords(new Date(Date.UTC(year!, month!, 0)).toISOString().slice(0, 10));
}

/** A moment as every screen writes it: `Nov 27, 2026, 3:16 PM`, in the reader's own time. */
export const momentWords = (iso: string): string => new Date(iso).toLocaleString('en-US', { dateStyle: 'medium', timeStyle: 'short' });

/** A moment in a time zone, which is named: `Nov 27, 2026, 3:16 PM EST`, or `GMT+9` where the zone has no usual name. */
export const zonedMomentWords = (iso: string, zone: string): string =>
  new Date(iso).toLocaleString('en-US', { ...DAY, hour: 'numeric', minute: '2-digit', timeZone: zone, timeZoneName: 'short' });
