import type { Problem, ReportDto } from '@wise-margin/contract';
import workbooks from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { sheetNames } from '../apps/server/src/formats/sheet-names.ts';
import { demoServer } from './support/demo-company.ts';
import { startTestServer, type TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

const report = (text: string): Promise<ReportDto> => server.get(`/companies/1/reports/${text}`);
const file = async (text: string) => {
  const response = await fetch(`${server.base}/companies/1/reports/${text}`);
  return { status: response.status, bytes: Buffer.from(await response.arrayBuffer()) };
};
const rowOf = ({ rows }: ReportDto, name: string) => rows.find(({ cells }) => cells[0] === name)!.cells;

describe('choices that cannot be taken', () => {
  it.each([
    ['trial-balance?range=soon', 'range', '“soon” is not a date or range'],
    ['trial-balance?range=Oct+2031', 'range', 'outside the fiscal years, FY2024 to FY20'],
    ['trial-balance?range=Oct+2026+to+Apr+2026', 'range', 'ends before it starts'],
    ['trial-balance?range=Oct+10,+2026+to+Oct+20,+2026&compare=budget', 'range', 'A budget has whole months'],
    ['trial-balance?range=FY2024&compare=prior-year', 'compare', 'no fiscal year before'],
    ['trial-balance?range=FY2024&compare=budget', 'compare', 'no approved budget'],
    ['trial-balance?range=Oct+2026&filter.department=Tuors', 'filter', 'Did you mean "Tours"'],
    ['account-detail?range=Oct+2026&accounts=9999', 'accounts', 'No account is 9999'],
    ['account-detail?range=Oct+2026&class=Wages', 'class', 'There is no class "Wages"'],
    ['account-detail?range=Oct+2026&find=zebra', 'accounts', 'No account matches'],
    ['aging?asOf=someday', 'asOf', 'is not a date'],
    ['aging?percents=1,2', 'percents', 'Enter 5 percentages'],
    ['aging?percents=1,2,3,4,much', 'percents', '“much” is not a percentage'],
    ['aging?party=Nobody', 'party', 'No receivables were ever posted for “Nobody”'],
  ])('%s', async (path, field, words) => {
    const { status, body } = await server.send('GET', `/companies/1/reports/${path}`);
    expect([status, (body as Problem).errors?.map((each) => each.path)]).toEqual([422, [field]]);
    expect((body as Problem).detail).toContain(words);
  });
});

describe('the trial balance', () => {
  it('stands beside the prior year: variance and percent of it, zero bases not meaningful', async () => {
    const [now, before] = [await report('trial-balance?range=Oct+2026&compare=prior-year'), await report('trial-balance?range=Oct+2025')];
    const [closing, base] = [rowOf(now, '6110'), rowOf(before, '6110')];
    expect(closing.slice(8, 10)).toEqual([base[6], Number(closing[6]) - Number(base[6])]);
    expect(closing[10]).toBeCloseTo((Number(closing[6]) - Number(base[6])) / Number(base[6]));
    expect(rowOf(now, '6790').slice(8)).toEqual([0, 31_742, 'n/m']);
  });
  it('stands beside the budget of the year to date; balance-sheet accounts by the planned balance sheet', async () => {
    const rows = await report('trial-balance?range=Oct+2026&compare=budget');
    const grid = await server.statement('/companies/1/statements/income?asOf=2026-10&open=all');
    const column = grid.columns.findIndex(({ key }) => key === 'ytd.budget');
    const line = grid.lines.findIndex(({ account }) => account === '6110');
    const cell = grid.cells[line]?.[column];
    expect(cell?.kind === 'amount' ? cell.value : null).toBe(rowOf(rows, '6110')[8]);
    expect(rowOf(rows, '1510').slice(8)).toEqual([148_000_000, 0, 0]);
    const tours = await report('trial-balance?range=Oct+2026&compare=budget&filter.department=Tours&zero=yes');
    expect(rowOf(tours, '1510').slice(8)).toEqual([null, null, null]);
  });
  it('hides accounts without figures, or shows them', async () => {
    const [few, all] = [await report('trial-balance?range=Oct+2026'), await report('trial-balance?range=Oct+2026&zero=yes')];
    expect(all.count).toBeGreaterThan(few.count);
    expect(all.rows.at(-1)).toEqual(few.rows.at(-1));
  });
  it('keeps to a department and includes drafts when asked', async () => {
    const tours = await report('trial-balance?range=Oct+2026&filter.department=Tours');
    expect(tours.words).toContain('department: Tours');
    const [without, withDrafts] = [
      rowOf(await report('trial-balance?range=Oct+2026'), '6210'),
      rowOf(await report('trial-balance?range=Oct+2026&drafts=yes'), '6210'),
    ];
    expect(Number(withDrafts[6]) - Number(without[6])).toBe(415_000);
  });
});

describe('files', () => {
  it('a spreadsheet has a sheet for each account, amounts as numbers, and the total at the end', async () => {
    const { bytes } = await file('account-detail/export.xlsx?range=Oct+2026&accounts=6110-6140&apart=yes');
    const workbook = new workbooks.Workbook();
    await workbook.xlsx.load(bytes as unknown as ArrayBuffer);
    expect(workbook.worksheets.map(({ name }) => name)).toEqual([
      '6110 Rent',
      '6120 Electricity',
      '6130 Water and waste',
      '6140 Telephone and internet',
    ]);
    const last = workbook.worksheets.at(-1)!;
    const texts = last.getColumn(5).values;
    expect(texts).toContain('Closing balance');
    expect(texts).toContain('Total');
    const closing = last.getRow(texts.indexOf('Closing balance'));
    const detail = await report('account-detail?range=Oct+2026&accounts=6140');
    expect(closing.getCell(10).value).toBe(Number(detail.rows.find(({ cells }) => cells[4] === 'Closing balance')!.cells[9]) / 100);
  });
  it('a PDF has a page for each account', async () => {
    const pages = async (apart: string) => {
      const { bytes } = await file(`account-detail/export.pdf?range=Oct+2026&accounts=6110-6140&apart=${apart}`);
      return bytes.toString('latin1').match(/\/Type \/Page\b(?!s)/g)?.length;
    };
    expect([await pages('yes'), await pages('no')]).toEqual([4, 1]);
  });
  it('CSV is exact whatever the unit, and harmless', async () => {
    const { bytes } = await file('aging/export.csv?asOf=2026-11-09&unit=thousands');
    const [head, first] = bytes.toString('utf8').replace('\ufeff', '').split('\n');
    expect(head).toBe('Customer,Not yet due,1 to 30,31 to 60,61 to 90,Over 90,Unapplied,Total,Days outstanding');
    expect(first).toMatch(/^Birchbark Trading,\d+\.\d\d,/);
  });
  it('too long for its format is refused with what to do', async () => {
    const { status, bytes } = await file('account-detail/export.pdf?range=FY2024+to+FY2027');
    expect([status, bytes.toString()]).toEqual([422, expect.stringMatching(/rows; a PDF takes up to 30,000\. Choose a shorter range/)]);
    expect((await file('account-detail/export.csv?range=FY2024+to+FY2027')).status).toBe(200);
  });
  it('sheet names are legal and unique', () => {
    expect(sheetNames(['A/B', 'a b', 'History', '', 'x'.repeat(40), 'x'.repeat(35)])).toEqual([
      'A B',
      'a b (2)',
      'Sheet 3',
      'Sheet 4',
      'x'.repeat(31),
      `${'x'.repeat(27)} (2)`,
    ]);
  });
});

describe('pages of rows', () => {
  it('follow one another without a gap, to the total', async () => {
    const whole = await report('account-detail?range=Oct+2026&limit=2000');
    const rows: ReportDto['rows'] = [];
    for (let after: number | null = 0; after !== null;) {
      const page: ReportDto = await report(`account-detail?range=Oct+2026&limit=700&after=${after}`);
      rows.push(...page.rows);
      after = page.next;
    }
    expect([rows.length, rows.slice(0, 2000), rows.at(-1)!.kind]).toEqual([whole.count, whole.rows, 'total']);
  });
});

describe('an aging of a ledger that lacks things', () => {
  let small: TestServer;
  beforeAll(async () => {
    small = await startTestServer();
    const accounts = 'account,name,class,active\n1000,Cash,Cash,yes\n1100,Receivables,Receivables,yes\n4000,Sales,Revenue,yes\n';
    const rows = [
      'entry,date,account,amount,party,document,due',
      // no due date
      '1,2026-01-05,1100,100.00,Alder,A-1,',
      '1,2026-01-05,4000,-100.00,Alder,A-1,',
      // credit larger than its invoice
      '2,2026-01-06,1100,50.00,Birch,B-1,2026-02-06',
      '2,2026-01-06,4000,-50.00,Birch,B-1,',
      '3,2026-01-09,1100,-80.00,Birch,B-1,',
      '3,2026-01-09,1000,80.00,Birch,B-1,',
      // a number used twice
      '4,2026-02-01,1100,30.00,Cedar,C-1,2026-03-01',
      '4,2026-02-01,4000,-30.00,Cedar,C-1,',
      '5,2026-02-20,1100,20.00,Cedar,C-1,2026-03-20',
      '5,2026-02-20,4000,-20.00,Cedar,C-1,',
      // nobody named
      '6,2026-02-21,1100,7.00,,,',
      '6,2026-02-21,4000,-7.00,,,',
    ];
    const made = await small.upload({ name: 'Small', currency: 'USD', startMonth: '1' }, { accounts, ledger: `${rows.join('\n')}\n` });
    await small.send('POST', `/imports/${made.id}/post`, {});
  });
  afterAll(() => small.close());
  it('says so, and is tied to the account by what it lacks', async () => {
    const aging = await small.get<ReportDto>('/companies/1/reports/aging?asOf=2026-03-10');
    expect(aging.rows.map(({ cells }) => cells.slice(0, 8))).toEqual([
      ['Alder', 0, 0, 0, 10_000, 0, 0, 10_000],
      ['Birch', 0, 0, 0, 0, 0, -3000, -3000],
      ['Cedar', 2000, 3000, 0, 0, 0, 0, 5000],
      ['Total', 2000, 3000, 0, 10_000, 0, -3000, 12_000],
    ]);
    expect(aging.notes.map(({ text }) => text)).toEqual([
      'The balance of 1100 Receivables is 127.00, 7.00 more than the total: 1 line names no customer.',
      '1 document has no due date and is aged from the document date.',
      'Cedar has two documents numbered C-1; payments are taken for the older one first.',
    ]);
  });
  it('of payables without such an account says that there is none', async () => {
    const { notes, count } = await small.get<ReportDto>('/companies/1/reports/aging?kind=payables&asOf=2026-03-10');
    expect([notes[0]!.text, count]).toEqual(['The chart has no account of class Payables.', 0]);
  });
});
