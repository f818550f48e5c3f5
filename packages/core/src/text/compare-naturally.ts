// one collator for all: making one for each comparison costs a hundred times as much
const natural = new Intl.Collator('en', { numeric: true });

/**
 * Compares texts as people order them: numbers inside by their value, capitals beside small letters.
 * @example ['10', '2', '0'].sort(compareNaturally) // ['0', '2', '10']
 */
export const compareNaturally = (a: string, b: string): number => natural.compare(a, b);
