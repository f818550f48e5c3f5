/** One side of a demo entry; amounts in cents, debit positive. */
export type DemoLine = {
  readonly account: string;
  readonly amount: number;
  readonly memo?: string;
  readonly party?: string;
  readonly document?: string;
  readonly due?: string;
  readonly dimensions?: Readonly<Record<string, string>>;
};
export type DemoEntry = {
  readonly date: string;
  readonly source: string;
  readonly kind?: 'adjustment' | 'closing';
  readonly state?: 'draft';
  readonly lines: readonly DemoLine[];
};

/** Entry numbers begin with two letters for their source journal. */
const PREFIXES: Readonly<Record<string, string>> = { payments: 'PY', payroll: 'PR' };
const prefixOf = (source: string): string => PREFIXES[source] ?? source.slice(0, 2).toUpperCase();

const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
const decimal = (cents: number): string => `${Math.floor(cents / 100)}.${String(cents % 100).padStart(2, '0')}`;

/** Collects entries and writes them as a ledger file, in order of date. */
export class Journal {
  readonly #entries: DemoEntry[] = [];
  /** posted lines by account, with the entry of each */
  readonly #posted = new Map<string, { readonly entry: DemoEntry; readonly line: DemoLine }[]>();
  readonly #lastDate: string;
  readonly #dimensions: readonly string[];

  /** @param options.lastDate entries dated later have not happened yet and are left out */
  constructor(options: { readonly lastDate: string; readonly dimensions: readonly string[] }) {
    this.#lastDate = options.lastDate;
    this.#dimensions = options.dimensions;
  }

  /** @throws RangeError when the entry does not balance */
  add(entry: DemoEntry): void {
    if (entry.date > this.#lastDate) return;
    const lines = entry.lines.filter((line) => line.amount !== 0);
    const sum = lines.reduce((total, line) => total + line.amount, 0);
    if (sum !== 0 || lines.length < 2) throw new RangeError(`the demo entry of ${entry.date} (${entry.lines[0]?.memo}) is off by ${sum}`);
    this.#entries.push({ ...entry, lines });
    if (entry.state === 'draft') return;
    for (const line of lines) {
      const posted = this.#posted.get(line.account);
      if (posted) posted.push({ entry, line });
      else this.#posted.set(line.account, [{ entry, line }]);
    }
  }

  /** Net of an account over everything added so far, debit positive. */
  balance(account: string, upTo = this.#lastDate): number {
    let sum = 0;
    for (const { entry, line } of this.#posted.get(account) ?? []) if (entry.date <= upTo) sum += line.amount;
    return sum;
  }

  /** Posted lines of an account with their entries' dates and journals, in order of date. */
  linesOf(account: string): { date: string; source: string; amount: number; memo: string; party: string; document: string }[] {
    const found = (this.#posted.get(account) ?? []).map(({ entry: { date, source }, line }) => ({
      ...{ date, source, amount: line.amount },
      ...{ memo: line.memo ?? '', party: line.party ?? '', document: line.document ?? '' },
    }));
    return found.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
  }

  toCsv(): string {
    const ordered = this.#entries
      .map((entry, index) => ({ entry, index }))
      .sort((a, b) => (a.entry.date === b.entry.date ? a.index - b.index : a.entry.date < b.entry.date ? -1 : 1));
    const rows = [`entry,date,account,debit,credit,memo,party,document,due,source,kind,state,${this.#dimensions.join(',')}`];
    const numbers = new Map<string, number>();
    for (const { entry } of ordered) {
      const count = (numbers.get(entry.source) ?? 0) + 1;
      numbers.set(entry.source, count);
      const number = `${prefixOf(entry.source)}-${String(count).padStart(6, '0')}`;
      for (const line of entry.lines) {
        const side = line.amount > 0 ? [decimal(line.amount), ''] : ['', decimal(-line.amount)];
        const texts = [
          line.memo ?? '',
          line.party ?? '',
          line.document ?? '',
          line.due ?? '',
          entry.source,
          entry.kind ?? '',
          entry.state ?? '',
        ];
        rows.push(
          [
            number,
            entry.date,
            line.account,
            ...side,
            ...texts.map(quoted),
            ...this.#dimensions.map((name) => quoted(line.dimensions?.[name] ?? '')),
          ].join(','),
        );
      }
    }
    return `${rows.join('\n')}\n`;
  }
}
