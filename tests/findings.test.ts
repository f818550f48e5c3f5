import {
  type CompanyDto,
  type CompanyMaterialityDto,
  type EntryDto,
  type FindingRecordDto,
  type FindingsDto,
  findingsSchema,
  type MaterialityDto,
  type MaterialityPreviewDto,
  type Problem,
  type VarianceExplanationDto,
  varianceExplanationSchema,
} from '@wise-margin/contract';
import { plainTextOf } from '@wise-margin/presentation';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { contentOf } from './support/entry-content.ts';
import { startTestServer, type TestServer } from './support/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
afterAll(() => server.close());

const at = '/companies/1';
const findings = async (query = ''): Promise<FindingsDto> => findingsSchema.parse(await server.get(`${at}/findings?asOf=2026-10${query}`));
const explanation = async (query: string): Promise<VarianceExplanationDto> =>
  varianceExplanationSchema.parse(await server.get(`${at}/explanation?${query}`));
const whyOf = (line: string, { span = 'month', month = '2026-10', comparison = 'budget' } = {}) =>
  explanation(`line=${encodeURIComponent(line)}&span=${span}&asOf=${month}&comparison=${comparison}`);
const limit = (of: Partial<MaterialityDto['month']> = {}): MaterialityDto['month'] => ({
  amount: 500_000,
  percent: null,
  passes: 'either',
  least: 0,
  ...of,
});
const limits = (of: Partial<MaterialityDto['month']> = {}): MaterialityDto => ({ month: limit(of), yearToDate: limit(of), overrides: [] });

describe('the findings of October 2026', () => {
  it('are each explained by what the ledger shows, in the first sentence', async () => {
    const { findings: all } = await findings();
    const sentences = new Map<string, string>();
    for (const { line, month, spans } of all)
      sentences.set(line, plainTextOf((await whyOf(line, { span: spans[0]!.span, month })).proposal));
    const wanted: Record<string, RegExp> = {
      'cost_lines.freight_in':
        /^Freight in is [\d,]+ \(\d+%\) over budget for the year to date\. Bill D-4471 of Oct 6 from Harbor Freight Lines for 4,890 was posted again as D-4471A on Oct 17\.$/,
      'operating_lines.repairs_and_maintenance': /BS-2609-2 of Sep 18 .* for 12,840 .* usually posted to 6220 Boat shows/,
      'operating_lines.rent_and_utilities': /EL-2607B of Jul 29 .* is 22,143, about ten times the usual/,
      'cost_lines.guide_wages_and_permits':
        /the other way in (August|September) 2026\. PR-000166 of Sep 3, “Guide payroll, August second half”/,
    };
    for (const [line, words] of Object.entries(wanted)) expect(sentences.get(line)).toMatch(words);
  });
  it('stand in order of their effect on operating income, no line twice', async () => {
    const { findings: all, count } = await findings();
    const effects = all.map(({ spans }) => Math.abs(spans[0]!.effect));
    expect(effects).toEqual([...effects].sort((a, b) => b - a));
    expect(new Set(all.map(({ line }) => line)).size).toBe(count);
  });
  it('name a subtotal for what its lines leave unexplained alone', async () => {
    const SECTIONS = { revenue: 'revenue_lines.', cost_of_sales: 'cost_lines.', operating_expenses: 'operating_lines.' };
    let subtotals = 0;
    for (const { key } of (await server.get<CompanyDto>(at)).periods.slice(13, 43)) {
      const { findings: all } = findingsSchema.parse(await server.get(`${at}/findings?asOf=${key}&comparison=priorYear`));
      for (const [total, lines] of Object.entries(SECTIONS))
        for (const { span, variance, unexplained } of all.find(({ line, month }) => line === total && month === key)?.spans ?? []) {
          const below = all
            .filter(({ line, month }) => line.startsWith(lines) && month === key)
            .flatMap(({ spans }) => spans.filter((each) => each.span === span));
          expect([key, total, unexplained]).toEqual([key, total, variance - below.reduce((sum, each) => sum + each.variance, 0)]);
          subtotals += 1;
        }
    }
    expect(subtotals).toBeGreaterThan(0);
  });
  it('are more the lower the limit is, which a preview says for each of twelve months', async () => {
    const preview = (await server.send('POST', `${at}/materiality/preview`, { asOf: '2026-10', materiality: limits({ amount: 1 }) }))
      .body as MaterialityPreviewDto;
    expect(preview.months).toHaveLength(12);
    const usual = (await server.send('POST', `${at}/materiality/preview`, { asOf: '2026-10', materiality: limits() }))
      .body as MaterialityPreviewDto;
    for (const [index, { findings: count }] of preview.months.entries())
      expect(count).toBeGreaterThanOrEqual(usual.months[index]!.findings);
  });
  it('compare with the prior year, the prior month and the projection too', async () => {
    for (const comparison of ['priorYear', 'priorMonth', 'projection']) {
      const { findings: all, against, missing } = await findings(`&comparison=${comparison}`);
      expect([comparison, missing, all.length > 0, against.length > 0]).toEqual([comparison, null, true, true]);
    }
  });
});

describe('an explanation', () => {
  it('has parts that add up to the difference to the cent, however it is laid out and whatever is compared', async () => {
    let laidOut = 0;
    for (const comparison of ['budget', 'priorYear', 'priorMonth', 'projection'])
      for (const { line, month, spans } of (await findings(`&comparison=${comparison}`)).findings)
        for (const { span, variance, compared, base } of spans) {
          const why = await whyOf(line, { span, month, comparison });
          expect([why.variance, why.compared, why.base]).toEqual([variance, compared, base]);
          for (const { by, parts, rest, total, shown } of why.layouts) {
            const sum = (key: 'amount' | 'compared' | 'base') => parts.reduce((all, part) => all + part[key], 0);
            expect([line, by, sum('amount') + rest.amount, total]).toEqual([line, by, variance, variance]);
            for (const part of parts) expect(part.compared - part.base).toBe(part.amount);
            if (rest.count === 0) expect([line, by, sum('compared'), sum('base')]).toEqual([line, by, compared, base]);
            const sizes = (of: typeof parts) => of.reduce((all, { amount }) => all + Math.abs(amount), 0);
            if (rest.count === 0) expect(sizes(parts.slice(0, shown))).toBeGreaterThanOrEqual(0.8 * sizes(parts));
            laidOut += 1;
          }
        }
    expect(laidOut).toBeGreaterThan(200);
  });
  it('of a view’s own column says the same', async () => {
    const own = await explanation(`view=income&asOf=2026-10&line=cost_lines.freight_in&column=month.budget_difference`);
    const found = await whyOf('cost_lines.freight_in');
    expect([own.variance, own.causes[0]!.sentence]).toEqual([found.variance, found.causes[0]!.sentence]);
  });
  it('over a span that a comparison does not have is of the one it has', async () => {
    const asked = async (query: string) => (await explanation(`view=income&asOf=2026-10&line=revenue&${query}`)).column;
    expect(await asked('comparison=priorMonth&span=yearToDate')).toBe('month.variance');
    expect(await asked('comparison=projection&span=month')).toBe('yearToDate.variance');
  });
  it.each([
    ['a ratio', 'line=gross_margin&asOf=2026-10', 422, 'Only a difference of two amounts can be explained'],
    ['an amount that is no difference', 'line=revenue&asOf=2026-10&column=month.actual', 422, 'Choose a variance'],
    ['a line that is not there', 'line=nothing&asOf=2026-10', 404, 'line nothing'],
    ['a month outside the calendar', 'line=revenue&asOf=1999-10', 422, 'outside the fiscal years'],
  ])('of %s is refused with the reason', async (_, query, status, words) => {
    const answer = await server.send('GET', `${at}/explanation?${query}`);
    expect([answer.status, (answer.body as Problem).detail]).toEqual([status, expect.stringContaining(words)]);
  });
});

describe('an explanation asked while an import posts', () => {
  it('is of one state of the books: before or after, its parts add up', async () => {
    const freight = 'cost_lines.freight_in';
    const before = await whyOf(freight);
    const rows = Array.from({ length: 4000 }, (_, at) => [
      `IM-${at},2026-10-20,5210,1.00,,Freight,,,,purchases`,
      `IM-${at},2026-10-20,2010,,1.00,Freight,,,,purchases`,
    ]).flat();
    const ledger = ['entry,date,account,debit,credit,memo,party,document,due,source', ...rows].join('\n');
    const made = await server.upload({ company: '1' }, { ledger });
    expect(made.state).toBe('ready');
    let isPosted = false;
    const posting = server.send('POST', `/imports/${made.id}/post`).then(() => {
      isPosted = true;
    });
    const seen = new Set<number>();
    while (!isPosted) {
      const { variance, layouts } = await whyOf(freight);
      seen.add(variance);
      for (const { parts, rest, total } of layouts)
        expect([total, parts.reduce((sum, { amount }) => sum + amount, 0) + rest.amount]).toEqual([variance, variance]);
    }
    await posting;
    const after = await whyOf(freight);
    expect(after.variance).toBe(before.variance + 400_000);
    expect([...seen].filter((variance) => variance !== before.variance && variance !== after.variance)).toEqual([]);
    expect((await server.send('POST', `/imports/${made.id}/reverse`)).status).toBeLessThan(300);
    expect((await whyOf(freight)).variance).toBe(before.variance);
  });
});

describe('what people say about a finding', () => {
  const freight = { line: 'cost_lines.freight_in', comparison: 'budget', month: '2026-10', span: 'month' };
  const record = (of: object = freight) =>
    server.get<FindingRecordDto>(`${at}/findings/record?${new URLSearchParams({ ...of } as Record<string, string>).toString()}`);
  const change = (body: object) => server.send('PUT', `${at}/findings/record`, { ...freight, ...body });

  it('is kept with its history, and a comment follows the ledger and says that its figures moved', async () => {
    const { proposal, causes, variance } = await whyOf('cost_lines.freight_in');
    await change({ comment: proposal.template, status: 'explained', owner: 'Dana Reyes', due: '2026-11-20' });
    let now = await record();
    expect([now.status, now.owner, now.due, now.hasMoved, now.notes.length]).toEqual(['explained', 'Dana Reyes', '2026-11-20', false, 4]);
    expect(plainTextOf(now.comment!)).toBe(plainTextOf(proposal));

    const entry = await server.get<EntryDto>(`${at}/entries/${causes[0]!.entry}`);
    const content = contentOf(entry);
    const half = content.lines.map((line) => ({ ...line, amount: line.amount / 2 }));
    const corrected = await server.send('POST', `${at}/entries/${entry.id}/correction`, {
      version: entry.version,
      content: { ...content, lines: half },
      reason: 'Half of it was delivered',
    });
    expect(corrected.status).toBe(204);
    now = await record();
    expect(now.hasMoved).toBe(true);
    const moved = now.comment!.segments.find(({ field }) => field === 'variance')!;
    expect(moved.was).toBe(Math.round(variance / 100).toLocaleString('en-US'));
    expect(moved.text).toBe(Math.round((variance - 244_500) / 100).toLocaleString('en-US'));
    expect((await findings()).findings.find(({ line }) => line === freight.line)).toMatchObject({
      status: 'explained',
      owner: 'Dana Reyes',
      hasComment: true,
    });
  });
  it('goes to its owner as a question, and comes back as an answer', async () => {
    const utilities = { line: 'operating_lines.rent_and_utilities', comparison: 'budget', month: '2026-10', span: 'yearToDate' };
    const note = (of: object) => server.send('POST', `${at}/findings/notes`, { ...utilities, ...of });
    await note({ kind: 'question', person: 'Sam Ortiz', text: 'Is the kiln bill right?' });
    const open = (await findings()).findings.find(({ line }) => line === utilities.line)!;
    expect([open.owner, open.questions]).toEqual(['Sam Ortiz', 1]);
    await note({ kind: 'answer', person: 'Sam Ortiz', text: 'No, a digit too many.' });
    expect((await findings()).findings.find(({ line }) => line === utilities.line)!.questions).toBe(0);
    expect((await note({ kind: 'answer', person: '', text: '' })).status).toBe(422);
  });
  it('may reject the drafted comment, which then stays away until it is another or is brought back', async () => {
    const { proposal } = await whyOf(freight.line);
    await change({ rejected: proposal.template });
    const { rejected, notes } = await record();
    expect(rejected).toBe(proposal.template);
    expect(notes.at(-1)).toMatchObject({ text: 'drafted comment rejected: no to yes' });
    await change({ rejected: '' });
    expect((await record()).rejected).toBe('');
  });
  it('refuses a figure that means nothing, and names those there are', async () => {
    const answer = await change({ comment: 'It is {varience} over.' });
    expect([answer.status, (answer.body as Problem).detail]).toEqual([
      422,
      expect.stringContaining('There is no figure {varience}. Use {variance}'),
    ]);
  });
  it('as timing comes back by itself where the next month did not take it back', async () => {
    const timing = (line: string, month: string) =>
      server.send('PUT', `${at}/findings/record`, {
        line,
        month,
        comparison: 'budget',
        span: 'month',
        status: 'explained',
        isTiming: true,
      });
    // August’s guide wages were posted in September: taken back, so answered
    await timing('cost_lines.guide_wages_and_permits', '2026-08');
    await timing('cost_lines.guide_wages_and_permits', '2026-09');
    // the bill on the wrong account was not taken back by October
    await timing('operating_lines.repairs_and_maintenance', '2026-09');
    const { findings: all } = await findings();
    const of = (line: string) => all.find((finding) => finding.line === line);
    expect(of('operating_lines.repairs_and_maintenance')).toMatchObject({ month: '2026-10', notReversed: true });
    // and of the two months of guide wages the later one, which October has not taken back
    expect(of('cost_lines.guide_wages_and_permits')).toMatchObject({ month: '2026-09', notReversed: true });
  });
});

describe('materiality limits', () => {
  it('are suggested until they are set, and on record', async () => {
    const before = await server.get<CompanyMaterialityDto>(`${at}/materiality`);
    expect([before.source, before.materiality.month.amount]).toEqual(['suggested', 400_000]);
    expect(before.lines.map(({ name }) => name)).toContain('Freight in');
    const many = (await findings()).count;
    const set = await server.send('PUT', `${at}/materiality`, limits({ amount: 1_500_000 }));
    expect([set.status, (set.body as CompanyMaterialityDto).source]).toEqual([200, 'company']);
    expect((await findings()).count).toBeLessThan(many);
    const trail = await server.get<{ events: { words: string }[] }>(`${at}/audit?limit=5`);
    expect(trail.events[0]!.words).toBe('Materiality limits changed');
  });
  it.each([
    ['zero', limits({ amount: 0 }), 'more than zero'],
    ['text', { ...limits(), month: { ...limit(), amount: 'much' } }, 'Enter the amount as a number'],
    ['nothing at all', limits({ amount: null }), 'Enter an amount, a percent, or both'],
  ])('of %s are refused', async (_, body, words) => {
    const answer = await server.send('PUT', `${at}/materiality`, body);
    expect([answer.status, JSON.stringify(answer.body)]).toEqual([422, expect.stringContaining(words)]);
  });
});

it('a company with one month has findings against nothing, and says what is missing', async () => {
  const small = await startTestServer();
  try {
    const made = await small.upload(
      { name: 'One Month', currency: 'USD', startMonth: '1' },
      {
        accounts: 'account,name,class\n1000,Cash,Cash\n4000,Sales,Revenue\n',
        ledger: 'entry,date,account,debit,credit\nE1,2026-01-05,1000,100.00,\nE1,2026-01-05,4000,,100.00\n',
      },
    );
    await small.send('POST', `/imports/${made.id}/post`, {});
    const list = await small.get<FindingsDto>('/companies/1/findings?asOf=2026-01');
    expect([list.count, list.missing]).toEqual([0, expect.stringContaining('no budget for this year')]);
    const before = await small.get<FindingsDto>('/companies/1/findings?asOf=2026-01&comparison=priorMonth');
    expect([before.count, before.missing]).toEqual([0, expect.stringContaining('no postings in the month before')]);
  } finally {
    await small.close();
  }
});
