import { writeFileSync } from 'node:fs';

import { mailIssueSchema, PACK_FORMATS, type PackFormat, type PackIssueSummary } from '@wise-margin/contract';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError, UsageError } from '../usage.ts';

type Values = Readonly<Record<string, string | boolean | undefined>>;
type Place = { readonly company: number; readonly companyName: string; readonly pack: string; readonly month: string };
const text = (values: Values, name: string): string | undefined => {
  const value = values[name];
  return typeof value === 'string' ? value : undefined;
};

/** The company, pack and month that the options name; without a month, the last posted one. @throws UsageError without a pack */
async function placeOf(application: Application, values: Values, verb: string): Promise<Place> {
  const { id, name } = await chosenCompany(application, text(values, 'company'));
  const asked = text(values, 'pack');
  if (asked === undefined) throw new UsageError(`${verb} needs --pack, such as --pack monthly-review`);
  const packs = await application.packStore.list(id);
  const found = packs.find((pack) => pack.key === asked || pack.name.toLowerCase() === asked.toLowerCase());
  if (!found) throw new UsageError(`there is no pack "${asked}". Packs: ${packs.map(({ key }) => key).join(', ')}`);
  const { calendar, lastActual } = await application.booksCache.of(id);
  const month = text(values, 'as-of') ?? (lastActual === null ? undefined : calendar.periods[lastActual]!.key);
  if (month === undefined) throw new UsageError(`${verb} needs --as-of: nothing is posted yet`);
  return { company: id, companyName: name, pack: found.key, month };
}

/** Every pack with its sections and last issue. */
export async function listPacks(application: Application, values: Values): Promise<Answer> {
  const { id, name } = await chosenCompany(application, text(values, 'company'));
  const packs = await application.packs.list(id, text(values, 'as-of'));
  return {
    title: `${name}\nPacks`,
    headings: ['pack', 'name', 'kept for', 'sections', 'last issue'],
    rows: packs.map(({ key, name: words, scope, sections, lastIssue }) => [
      key,
      words,
      { builtIn: 'built-in', all: 'all companies', company: 'this company' }[scope],
      String(sections),
      lastIssue ? `${lastIssue.monthName}, issue ${lastIssue.number}` : '',
    ]),
    figures: new Set([3]),
    json: { company: name, packs },
  };
}

/** The sections of a pack with their pages and what wants a look; `--file` writes it as PDF, DOCX, XLSX or HTML. */
export async function previewPack(application: Application, values: Values): Promise<Answer> {
  const place = await placeOf(application, values, 'pack preview');
  const design = await application.packStore.of(place);
  const { meeting, texts, state } = await application.packMonths.of(place);
  const slice = text(values, 'department');
  const request = { ...design, month: place.month, meeting, texts: { ...texts }, state, ...(slice === undefined ? {} : { slice }) };
  const { pages, sections } = await application.packs.preview(place.company, request);
  const file = text(values, 'file');
  if (file !== undefined) {
    const format = PACK_FORMATS.find((each) => file.toLowerCase().endsWith(`.${each}`));
    if (!format) throw new UsageError(`--file ends with one of ${PACK_FORMATS.map((each) => `.${each}`).join(', ')}, not ${file}`);
    const { content } = await application.packs.export(place, { slice: slice ?? '', format, signal: new AbortController().signal });
    writeFileSync(file, content);
  }
  const { items } = await application.packs.checklist(place);
  return {
    title: `${place.companyName}\n${design.name}, ${place.month}, ${pages.length} pages${file === undefined ? '' : `, written to ${file}`}`,
    headings: ['page', 'section', 'date', 'note'],
    rows: [
      ...sections.map(({ page, title, dateWords, omissionReason, notes }) => [
        String(page ?? ''),
        title,
        dateWords,
        [omissionReason, ...notes].filter((each) => each !== '').join(' '),
      ]),
      ...items.map(({ words }) => ['', 'Checklist', '', words]),
    ],
    figures: new Set([0]),
    json: { company: place.companyName, pages: pages.length, sections, checklist: items },
  };
}

/** Issues a pack: its figures, pages and files are frozen. With open items on its checklist only with `--anyway`. @throws RefusedError listing them */
export async function issuePack(application: Application, values: Values): Promise<Answer> {
  const place = await placeOf(application, values, 'pack issue');
  const { items } = await application.packs.checklist(place);
  const open = items.map(({ words }) => `- ${words}`).join('\n');
  if (items.length > 0 && values['anyway'] !== true)
    throw new RefusedError(
      `The pack was not issued. ${items.length === 1 ? 'One item is' : `${items.length} items are`} open:\n${open}\nIssue it with --anyway.`,
    );
  const { list, ...summary } = await application.packs.issue(place);
  return {
    ...issueAnswer(place.companyName, summary),
    json: { company: place.companyName, issue: summary, checklist: items, changes: list },
  };
}

function issueAnswer(company: string, { name, monthName, number, documents, changes }: PackIssueSummary): Omit<Answer, 'json'> {
  const against = changes === null ? '' : `, ${changes} figures and texts changed`;
  return {
    title: `${company}\n${name}, ${monthName}, issue ${number}${against}`,
    headings: ['document', 'pages', 'fingerprint'],
    rows: documents.map(({ slice, pages, fingerprint }) => [slice === '' ? 'Company' : slice, String(pages), fingerprint]),
    figures: new Set([1]),
  };
}

/** Mails the latest issue of a pack's month. With SMTP_URL it goes out at once, otherwise it is kept in the outbox. */
export async function sendPack(application: Application, values: Values): Promise<Answer> {
  const place = await placeOf(application, values, 'pack send');
  const to = text(values, 'to');
  if (to === undefined) throw new UsageError('pack send needs --to, such as --to ann@company.com,bo@company.com');
  const { issues } = await application.packs.month(place);
  const [latest] = issues;
  if (!latest)
    throw new UsageError(
      `the pack has no issue for ${place.month}. Issue it first: wm pack issue --pack ${place.pack} --as-of ${place.month}`,
    );
  const formats = (text(values, 'attach') ?? 'pdf').split(',').map((each) => each.trim()) as PackFormat[];
  const addresses = to.split(',').map((each) => each.trim());
  const mail = mailIssueSchema.parse({
    // the same issue to the same people is one mail, however often the script runs
    key: `script ${latest.id} ${[...addresses].sort().join()}`.slice(0, 100),
    to: addresses,
    subject: text(values, 'subject') ?? '{pack}, {month}',
    text: 'The {pack} of {company} for {month} is attached.\n\n{link}',
    formats,
  });
  await application.mail.sendIssue(place.company, latest.id, mail);
  await application.mailSender.sendDue();
  return listOutbox(application, values);
}

/** Messages of a company, the latest first. */
export async function listOutbox(application: Application, values: Values): Promise<Answer> {
  const { id, name } = await chosenCompany(application, text(values, 'company'));
  const listing = await application.mail.list(id, { limit: 200 });
  return {
    title: `${name}\n${listing.count} messages${listing.hasServer ? '' : '; no mail server is set, so they are kept here'}`,
    headings: ['message', 'to', 'subject', 'date', 'state', 'error'],
    rows: listing.messages.map(({ id: message, recipient, subject, at, state, error }) => [
      String(message),
      recipient,
      subject,
      at,
      state,
      error,
    ]),
    figures: new Set([0]),
    json: { company: name, ...listing },
  };
}
