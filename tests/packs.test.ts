import {
  type EntryDto,
  type EntryListDto,
  type PackChecklistDto,
  packChecklistSchema,
  type PackDto,
  type PackIssueDto,
  packIssueSchema,
  type PackListDto,
  packListSchema,
  type PackMonthDto,
  packMonthSchema,
  packPagesSchema,
  type PackPreviewDto,
  type PackPreviewRequest,
  packPreviewSchema,
  packSchema,
  type Problem,
} from '@wise-margin/contract';
import { type RichText, type Section, shippedPack, textOf } from '@wise-margin/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { sourceStamp } from '../apps/server/src/packs/source-stamp.ts';
import { demoServer } from './support/demo-company.ts';
import { contentOf } from './support/entry-content.ts';
import { PICTURE, type TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

const AT = '/companies/1';
const review = shippedPack('monthly-review')!;
const preview = async (change: Partial<PackPreviewRequest> = {}, company = 1): Promise<PackPreviewDto> => {
  const request = {
    ...review,
    sections: [...review.sections],
    month: '2026-10',
    meeting: '2026-11-18',
    texts: {},
    state: 'draft',
    ...change,
  };
  const { status, body } = await server.send('POST', `/companies/${company}/pack-preview`, request);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return packPreviewSchema.parse(body);
};
const sectionOf = (id: string): Section => review.sections.find((section) => section.id === id)!;
const textsOf = ({ pages }: Pick<PackPreviewDto, 'pages'>): string[] =>
  pages.flatMap(({ marks }) => marks.flatMap((mark) => (mark.kind === 'text' ? [mark.text] : [])));
const onlySection = (section: Section, company = 1) => preview({ sections: [section] }, company);

describe('the pages of a pack', () => {
  it('have every section in order, each with its date', async () => {
    const { sections, pages } = await preview();
    expect(sections.map(({ title, dateWords }) => [title, dateWords])).toEqual([
      ['Monthly management review', ''],
      ['Contents', ''],
      ['Summary', ''],
      ['Key measures', 'October 2026'],
      ['Income statement', 'October 2026'],
      ['Findings', 'October 2026'],
      ['Operating income: budget to actual', 'October 2026'],
      ['Trends', 'October 2026'],
      ['Year-end outlook', 'October 2026'],
      ['Balance sheet', 'October 2026'],
      ['Statement of cash flows', 'October 2026'],
      ['Receivables aging', 'As of the meeting, Nov 18, 2026'],
      ['Largest customers', 'October 2026'],
      ['Ratios', 'October 2026'],
      ['Notes', ''],
    ]);
    // a section without anything to show is left out
    expect(sections.at(-1)).toMatchObject({ page: null, omissionReason: 'The statements have no footnotes' });
    const starts = sections.flatMap(({ page }) => page ?? []);
    expect(starts).toEqual([...starts].sort((a, b) => a - b));
    expect(starts.at(-1)).toBeLessThanOrEqual(pages.length);
  });
  it('name the page of every section in the contents, as the sections begin', async () => {
    const { sections, pages } = await preview();
    const contents = pages[1]!.marks.flatMap((mark) => (mark.kind === 'text' ? [mark] : []));
    for (const { title, page } of sections.slice(2).filter((section) => section.page !== null)) {
      const line = contents.find(({ text }) => text === title)!;
      expect(contents.filter(({ y }) => y === line.y).at(-1)!.text).toBe(String(page));
    }
  });
  it('have a summary that drafts itself, with the figures of the statements, until somebody accepts it', async () => {
    const drawn = (await preview()).pages
      .flatMap(({ marks }) => marks.flatMap((mark) => (mark.kind === 'text' ? [mark.text] : [])))
      .join(' ')
      .replaceAll(/ (?=[,.])/g, '');
    const statement = await server.statement(`${AT}/statements/income?asOf=2026-10`);
    const figure = (line: string, column: string): string => {
      const cell =
        statement.cells[statement.lines.findIndex(({ key }) => key === line)]![statement.columns.findIndex(({ key }) => key === column)]!;
      if (cell.kind !== 'amount') throw new TypeError(`${line} is not an amount`);
      const text = Math.round(Math.abs(cell.value) / 100).toLocaleString('en-US');
      return cell.value < 0 ? `($${text})` : `$${text}`;
    };
    const operating = (column: string) => figure('operating_income', column);
    expect(drawn).toContain('Draft. Edit or accept it before the pack is issued.');
    expect(drawn).toContain(
      `Operating income was ${operating('month.actual')}, a variance of ${operating('month.budget_difference')} to the budget of ${operating('month.budget')}`,
    );
    expect(drawn).toMatch(/ of the (month|year to date) differs from budget by \$/);
    const draft = await server.get<RichText>(`${AT}/packs/monthly-review/months/2026-10/drafted-summary`);
    expect(draft.content.length).toBeGreaterThanOrEqual(2);
    // accepted, it is a text like any other
    const accepted = await preview({ texts: { summary: draft } });
    expect(accepted.sections.find(({ title }) => title === 'Summary')!.notes).toEqual([]);
  });
  it('show the figures of the statement itself', async () => {
    const statement = await server.statement(`${AT}/statements/income?asOf=2026-10`);
    const revenue = statement.cells[statement.lines.findIndex(({ key }) => key === 'revenue')]![0]!;
    if (revenue.kind !== 'amount') throw new TypeError('revenue is not an amount');
    expect(textsOf(await onlySection(sectionOf('income')))).toContain(Math.round(revenue.value / 100).toLocaleString('en-US'));
  });
  it('keep everything between the margins, whatever is on them', async () => {
    for (const { width, height, marks } of (await preview()).pages)
      for (const mark of marks)
        if (mark.kind === 'text') {
          expect([mark.x >= 30, mark.x + mark.width <= width - 26, mark.y <= height - 10]).toEqual([true, true, true]);
        }
  });
  it('leave hidden sections out, and say so', async () => {
    const made = await preview({
      sections: review.sections.map((section) => (section.id === 'income' ? { ...section, hidden: true } : section)),
    });
    expect(made.sections.find(({ id }) => id === 'income')).toMatchObject({ page: null, omissionReason: 'Hidden' });
    expect([textsOf(await preview()).includes('Income statement'), textsOf(made).includes('Income statement')]).toEqual([true, false]);
  });
  it('leave a section out when its condition is not met, and have it when it is', async () => {
    const when = (line: string): Section => ({ ...sectionOf('ratios'), condition: { kind: 'activity', view: 'income', line } });
    expect((await onlySection(when('revenue'))).sections[0]).toMatchObject({ omissionReason: '', page: 1 });
    expect((await onlySection(when('no_such_line'))).sections[0]).toMatchObject({
      omissionReason: 'no_such_line has no activity',
      page: null,
    });
    expect((await onlySection({ ...sectionOf('ratios'), condition: { kind: 'findings' } })).sections[0]!.omissionReason).toBe('');
  });
  it('follow the date of each section', async () => {
    const dated = async (date: Section['date']) => (await onlySection({ ...sectionOf('balance'), date })).sections[0]!.dateWords;
    expect([
      await dated({ kind: 'monthBefore' }),
      await dated({ kind: 'sameMonthLastYear' }),
      await dated({ kind: 'quarterToDate' }),
      await dated({ kind: 'fixed', month: '2026-03' }),
    ]).toEqual(['September 2026', 'October 2025', 'Quarter to date, October 2026', 'March 2026']);
  });
  it('compare with what the section says, under headings a reader knows', async () => {
    const texts = textsOf(await onlySection({ ...sectionOf('income'), comparison: 'priorMonth' } as Section));
    expect(texts).toEqual(expect.arrayContaining(['Actual', 'Prior month', 'Change']));
    expect(texts).not.toContain('Budget');
  });
});

describe('what a company lacks', () => {
  const withNote = async (section: Section, company = 1) => (await onlySection(section, company)).sections[0]!;
  it('is said on the section: a deleted view, a date outside the years, no text', async () => {
    expect((await withNote({ ...sectionOf('income'), view: 'view-999' } as Section)).notes).toEqual(['There is no view "view-999".']);
    expect((await withNote({ ...sectionOf('income'), date: { kind: 'fixed', month: '2040-01' } })).notes).toEqual([
      'The date of this section is outside the fiscal years of the company. Choose another date.',
    ]);
    expect((await withNote(sectionOf('summary'))).notes).toEqual(['The text is a draft that nobody accepted yet.']);
  });
  it('does not stop the others: the same pack serves the second company', async () => {
    const { sections, pages } = await preview({ month: '2026-10' }, 2);
    expect(sections).toHaveLength(review.sections.length);
    expect(pages.length).toBeGreaterThan(8);
  });
  it('stops a pack that is split by a dimension the ledger does not have, with what to do', async () => {
    const { status, body } = await server.send('POST', `${AT}/pack-preview`, { ...review, splitBy: 'region', month: '2026-10' });
    expect([status, (body as Problem).detail]).toEqual([
      422,
      'The pack is split by region, and the ledger of Tern Island has no region. Choose another dimension or none.',
    ]);
  });
  it('is a figure in a text that is not there', async () => {
    const text: RichText = {
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'Profit was ' },
            { type: 'figure', attrs: { view: 'income', line: 'no_line', column: 'month.actual' } },
          ],
        },
      ],
    };
    const made = await preview({ sections: [sectionOf('summary')], texts: { summary: text } });
    expect([made.sections[0]!.notes, textsOf(made)]).toEqual([
      ['There is no line "no_line" in Income statement.'],
      expect.arrayContaining(['[no', 'figure]']),
    ]);
  });
});

describe('what is too much for a page', () => {
  it('of columns is broken over pages, the line names repeated, in type of seven points at least', async () => {
    const { pages } = await onlySection({ ...sectionOf('income'), view: 'income-months' } as Section);
    const names = pages.filter(({ marks }) => marks.some((mark) => mark.kind === 'text' && mark.text === 'Net income'));
    expect([pages.length > 2, names.length]).toEqual([true, pages.length]);
    const sizes = pages.flatMap(({ marks }) => marks.flatMap((mark) => (mark.kind === 'text' ? [mark.size] : [])));
    expect(Math.min(...sizes)).toBeGreaterThanOrEqual(7);
  });
  it('of pages is refused, with the section that makes them', async () => {
    const sections = Array.from({ length: 60 }, (_, at): Section => ({ ...sectionOf('summary'), id: `text-${at}`, title: `Text ${at}` }));
    const texts = Object.fromEntries(sections.map(({ id }) => [id, textOf('word '.repeat(9900))]));
    const { status, body } = await server.send('POST', `${AT}/pack-preview`, { ...review, sections, texts, month: '2026-10' });
    expect([status, (body as Problem).detail]).toEqual([
      422,
      expect.stringMatching(/^The pack has more than 500 pages; Text \d+ begins on page \d+ and does not end before\. Hide the section/),
    ]);
  });
});

describe('texts', () => {
  it('show figures of the month, bold words and lists, and run over pages when they are long', async () => {
    const figure = { type: 'figure', attrs: { view: 'income', line: 'revenue', column: 'month.actual' } } as const;
    const text: RichText = {
      type: 'doc',
      content: [
        { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'Sales' }] },
        { type: 'paragraph', content: [{ type: 'text', text: 'Revenue was ', marks: [{ type: 'bold' }] }, figure] },
        {
          type: 'orderedList',
          content: [{ type: 'listItem', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'First' }] }] }],
        },
        { type: 'figureTable', attrs: { view: 'income', lines: ['revenue', 'net_income'] } },
        ...textOf('word '.repeat(4000)).content,
      ],
    };
    const made = await preview({ sections: [sectionOf('summary')], texts: { summary: text } });
    expect(textsOf(made)).toEqual(expect.arrayContaining(['Sales', '$219,617', '1.', 'First', 'Net income']));
    expect(made.pages.length).toBeGreaterThan(3);
    const bold = made.pages[0]!.marks.find((mark) => mark.kind === 'text' && mark.text === 'Revenue');
    expect(bold).toMatchObject({ font: 'serifBold' });
  });
  it('may have letters that the serif lacks', async () => {
    const made = await preview({ sections: [sectionOf('summary')], texts: { summary: textOf('Łódź Σ') } });
    const mark = made.pages[0]!.marks.find((each) => each.kind === 'text' && each.text === 'Łódź');
    expect(mark).toMatchObject({ font: 'sans' });
  });
  it('past their limit are refused with it', async () => {
    const { status, body } = await server.send('PUT', `${AT}/packs/monthly-review/months/2026-09`, {
      version: 0,
      texts: { summary: textOf('x'.repeat(50_001)) },
    });
    expect([status, JSON.stringify(body)]).toEqual([422, expect.stringContaining('A text has at most 50,000 characters')]);
  });
});

describe('designs', () => {
  const list = async (company = 1): Promise<PackListDto> =>
    packListSchema.parse(await server.get(`/companies/${company}/packs?month=2026-10`));
  const packOf = async (key: string, company = 1): Promise<PackDto> =>
    packSchema.parse(await server.get(`/companies/${company}/packs/${key}`));
  const save = (key: string, change: object, company = 1) => server.send('PUT', `/companies/${company}/packs/${key}`, change);
  it('changed for all reach every company that has not changed its own, and say which have', async () => {
    const lender = await packOf('lender-pack');
    expect([lender.scope, lender.version]).toEqual(['builtIn', 0]);
    expect((await save('lender-pack', { ...lender, name: 'Bank pack', scope: 'all' })).status).toBe(200);
    expect(await packOf('lender-pack', 2)).toMatchObject({ name: 'Bank pack', scope: 'all', version: 1, changedBy: [] });
    const second = await packOf('lender-pack', 2);
    expect((await save('lender-pack', { ...second, note: 'Ours', scope: 'company' }, 2)).status).toBe(200);
    const first = await packOf('lender-pack');
    expect([first.scope, first.changedBy]).toEqual(['all', ['Gannet Rock']]);
    expect((await save('lender-pack', { ...first, note: 'For every bank', scope: 'all' })).status).toBe(200);
    expect([(await packOf('lender-pack')).note, (await packOf('lender-pack', 2)).note]).toEqual(['For every bank', 'Ours']);
    // taken back, the company has the one for all again
    expect((await server.send('DELETE', '/companies/2/packs/lender-pack')).status).toBe(204);
    expect((await packOf('lender-pack', 2)).note).toBe('For every bank');
    expect((await server.send('DELETE', `${AT}/packs/lender-pack`)).status).toBe(204);
    expect((await packOf('lender-pack')).scope).toBe('builtIn');
  });
  it('saved by two people at once keep the first, and tell the second', async () => {
    const board = await packOf('board-summary');
    expect((await save('board-summary', { ...board, note: 'One', scope: 'company' })).status).toBe(200);
    const { status, body } = await save('board-summary', { ...board, note: 'Two', scope: 'company' });
    expect([status, (body as Problem).detail, (await packOf('board-summary')).note]).toEqual([
      409,
      'Somebody else saved this pack. Reload it to see their changes, then make yours.',
      'One',
    ]);
  });
  it('have names of their own, and built-in ones cannot be deleted', async () => {
    const create = (name: string) =>
      server.send('POST', `${AT}/packs`, { name, note: '', splitBy: null, scope: 'company', sections: [sectionOf('income')] });
    expect((await create('Covenants')).status).toBe(201);
    expect([(await create('covenants')).status, (await create('Monthly management review')).status]).toEqual([422, 422]);
    expect((await server.send('DELETE', `${AT}/packs/monthly-review`)).status).toBe(409);
    expect((await list()).map(({ name }) => name)).toContain('Covenants');
    expect((await list(2)).map(({ name }) => name)).not.toContain('Covenants');
  });
  it('with two sections of one id, or none that is known, are refused', async () => {
    const body = { name: 'Twice', note: '', splitBy: null, scope: 'company' };
    expect((await server.send('POST', `${AT}/packs`, { ...body, sections: [sectionOf('income'), sectionOf('income')] })).status).toBe(422);
    expect((await server.send('POST', `${AT}/packs`, { ...body, sections: [{ ...sectionOf('income'), kind: 'poem' }] })).status).toBe(422);
  });
});

const monthOf = async (pack: string, month = '2026-10'): Promise<PackMonthDto> =>
  packMonthSchema.parse(await server.get(`${AT}/packs/${pack}/months/${month}`));
const issue = async (pack: string): Promise<PackIssueDto> => {
  const { status, body } = await server.send('POST', `${AT}/packs/${pack}/months/2026-10/issues`, {});
  if (status !== 201) throw new Error(JSON.stringify(body));
  return packIssueSchema.parse(body);
};
const pagesOf = async ({ id }: PackIssueDto) => packPagesSchema.parse(await server.get(`${AT}/pack-issues/${id}/pages`));

describe('the month of a pack', () => {
  it('keeps its texts, is sent to review, and does not take a change over another', async () => {
    const path = `${AT}/packs/budget-proposal/months/2026-10`;
    expect(await monthOf('budget-proposal')).toMatchObject({ state: 'draft', meeting: null, version: 0 });
    const changed = await server.send('PUT', path, { version: 0, meeting: '2026-11-20', texts: { text: textOf('Please approve') } });
    expect(packMonthSchema.parse(changed.body)).toMatchObject({
      meeting: '2026-11-20',
      version: 1,
      texts: { text: textOf('Please approve') },
    });
    expect((await server.send('PUT', path, { version: 0, state: 'inReview' })).status).toBe(409);
    expect((await server.send('PUT', path, { version: 1, state: 'inReview' })).status).toBe(200);
    expect(await monthOf('budget-proposal')).toMatchObject({ state: 'inReview', version: 2 });
    // the next month begins empty
    expect(await monthOf('budget-proposal', '2026-11')).toMatchObject({ state: 'draft', texts: {} });
    expect((await server.send('PUT', `${AT}/packs/budget-proposal/months/Oct`, { version: 0 })).status).toBe(422);
  });
  it('has a checklist of what is open', async () => {
    const { items }: PackChecklistDto = packChecklistSchema.parse(await server.get(`${AT}/packs/monthly-review/months/2026-10/checklist`));
    const kinds = items.map(({ kind }) => kind);
    expect(kinds).toEqual(expect.arrayContaining(['openMonth', 'findings', 'missingText']));
    expect(items.find(({ kind }) => kind === 'missingText')!.words).toBe('Summary has no text.');
    expect(items.find(({ kind }) => kind === 'openMonth')!.words).toBe('October 2026 is not closed.');
  });
});

describe('an issued pack', () => {
  it('stays as it was after a correction; the reissue lists what the correction changed', async () => {
    const first = await issue('monthly-review');
    expect([first.number, first.changes, first.documents.length]).toEqual([1, null, 1]);
    expect(await monthOf('monthly-review')).toMatchObject({ state: 'issued', issues: [{ id: first.id }] });
    const before = await pagesOf(first);
    expect(textsOf(before).filter((text) => text.startsWith('Checksum '))).toEqual([`Checksum ${first.documents[0]!.fingerprint}`]);

    const { lines } = await server.get<EntryListDto>(`${AT}/entries?limit=50&accounts=6110&from=2026-10&to=2026-10`);
    const entries = await Promise.all(lines.map(({ entryId }) => server.get<EntryDto>(`${AT}/entries/${entryId}`)));
    const entry = entries.find(({ state, lines: own }) => state === 'posted' && own.length === 2)!;
    const content = contentOf(entry);
    content.lines = content.lines.map((line) => ({ ...line, amount: line.amount + Math.sign(line.amount) * 200_00 }));
    const correction = { version: entry.version, content, reason: 'Bill misread' };
    expect((await server.send('POST', `${AT}/entries/${entry.id}/correction`, correction)).status).toBe(204);

    expect(await pagesOf(first)).toEqual(before);
    const second = await issue('monthly-review');
    expect(second.number).toBe(2);
    expect(second.documents[0]!.fingerprint).not.toBe(first.documents[0]!.fingerprint);
    const changed = second.list.filter(({ title, heading }) => title === 'Income statement' && heading === 'October 2026, Actual');
    expect(changed.map(({ lineName, difference }) => [lineName, difference])).toEqual([
      ['Rent and utilities', 200_00],
      ['Operating expenses', 200_00],
      ['Operating income', -200_00],
      ['Operating margin', null],
      ['Income before taxes', -200_00],
      ['Net income', -200_00],
    ]);
    // a reissue of the same figures changes nothing, and has the same fingerprint
    const third = await issue('monthly-review');
    expect([third.number, third.changes, third.documents[0]!.fingerprint]).toEqual([3, 0, second.documents[0]!.fingerprint]);
  });
  it('has its files byte for byte, and cannot be changed behind the application', async () => {
    const { id } = (await monthOf('monthly-review')).issues[0]!;
    const file = async (format: string) =>
      Buffer.from(await (await fetch(`${server.base}${AT}/pack-issues/${id}/export.${format}`)).arrayBuffer());
    for (const format of ['pdf', 'docx', 'xlsx', 'html']) expect((await file(format)).equals(await file(format))).toBe(true);
    expect((await file('pdf')).subarray(0, 8).toString()).toBe('%PDF-1.7');
    const { database } = server.application;
    const change = database.write((transaction) => database.run('UPDATE pack_documents SET fingerprint = $1', ['other'], transaction));
    await expect(change).rejects.toMatchObject({
      parent: { message: expect.stringContaining('an issued pack does not change') as string },
    });
    // nor deleted, but with the demo companies as a whole
    const remove = (table: string) => database.write((transaction) => database.run(`DELETE FROM ${table}`, [], transaction));
    await database.write((transaction) => database.run('UPDATE companies SET is_demo = 0', [], transaction));
    for (const table of ['pack_files', 'pack_documents'])
      await expect(remove(table)).rejects.toMatchObject({
        parent: { message: expect.stringContaining('an issued pack is kept') as string },
      });
    await database.write((transaction) => database.run('UPDATE companies SET is_demo = 1', [], transaction));
  });
  it('is not issued when the ledger or its text changed meanwhile, and keeps its logo when that changes', async () => {
    const place = { company: 1, pack: 'monthly-review', month: '2026-10' };
    const { application } = server;
    const { issues } = await monthOf('monthly-review');
    const sql = (text: string) => application.database.write((transaction) => application.database.run(text, [], transaction));
    /** What is frozen after each change, though its documents were made before. */
    const frozenAfter = async (change: () => Promise<unknown>) => {
      const stamp = await sourceStamp(application.database, 1);
      await change();
      return application.packIssues.freeze(place, { name: 'Review', documents: [], actor: application.actor, stamp });
    };
    const changes: readonly (readonly [string, () => Promise<unknown>])[] = [
      ['budgets', () => server.accept('POST', `${AT}/budgets`, { year: 2028, from: 2027, name: 'Late version' })],
      [
        'comments on findings',
        () =>
          server.accept('PUT', `${AT}/findings/record`, {
            ...{ view: 'income', comparison: 'budget', month: '2026-10', line: 'cost_lines.freight_in' },
            comment: 'Late comment',
          }),
      ],
      ['benchmarks', () => sql(`INSERT INTO benchmarks VALUES (1, 'revenue', 'share', 0.5)`)],
      ['exchange rates', () => sql(`INSERT INTO exchange_rates VALUES ('EUR', 'USD', '2026-10', 1.1, 1.2)`)],
    ];
    for (const [source, change] of changes)
      await expect(frozenAfter(change), source).rejects.toMatchObject({ status: 409, detail: expect.stringContaining(source) as string });
    expect((await monthOf('monthly-review')).issues).toEqual(issues);
    const pages = await server.get(`${AT}/pack-issues/${issues[0]!.id}/pages`);
    await server.sendFile('PUT', `${AT}/logo`, 'logo', PICTURE);
    expect(await server.get(`${AT}/pack-issues/${issues[0]!.id}/pages`)).toEqual(pages);
  });
  it('of a pack by department has a document for each department', async () => {
    const made = await issue('department-report');
    expect(made.documents.length).toBeGreaterThanOrEqual(4);
    expect(new Set(made.documents.map(({ fingerprint }) => fingerprint)).size).toBe(made.documents.length);
    const tours = await server.get<{ pages: PackPreviewDto['pages'] }>(`${AT}/pack-issues/${made.id}/pages?slice=Tours`);
    const statement = await server.statement(`${AT}/statements/income?asOf=2026-10&filter.department=Tours`);
    const revenue = statement.cells[statement.lines.findIndex(({ key }) => key === 'revenue')]![0]!;
    if (revenue.kind !== 'amount') throw new TypeError('revenue is not an amount');
    expect(textsOf(tours)).toContain(Math.round(revenue.value / 100).toLocaleString('en-US'));
    expect((await server.send('GET', `${AT}/pack-issues/${made.id}/pages?slice=Nowhere`)).status).toBe(404);
  });
  it('is on record, with its fingerprint', async () => {
    const { events } = await server.get<{ events: { words: string }[] }>(`${AT}/audit?limit=50`);
    expect(events.map(({ words }) => words)).toEqual(expect.arrayContaining(['Pack Department report issued for 2026-10, issue 1']));
  });
});
