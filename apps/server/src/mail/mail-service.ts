import { MAIL_FIELDS, type MailDetailDto, type MailField, type MailIssue, type MailListingDto } from '@wise-margin/contract';
import MailComposer from 'nodemailer/lib/mail-composer';

import type { BooksCache } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import { ProblemError, refused } from '../http/problem.ts';
import { PACK_FILES, type PackIssues } from '../packs/index.ts';
import type { MailLists } from './mail-lists.ts';
import { type MailFile, type MailRow, type MailStore, messageDto } from './mail-store.ts';
import type { RawMail } from './mail-transport.ts';

/** What the fields of a message stand for; those it does not have are absent. */
export type MailFields = Partial<Readonly<Record<MailField, string>>>;
/** What is set for the whole server. */
export type MailSettings = {
  /** whether a mail server is set; without one messages stay in the outbox */
  readonly hasServer: boolean;
  readonly from: string;
  /** where people reach the application, for links */
  readonly url: string;
};
type Parts = {
  readonly booksCache: BooksCache;
  readonly issues: PackIssues;
  readonly store: MailStore;
  readonly lists: MailLists;
  readonly actor: Actor;
  readonly settings: MailSettings;
};
// what mail servers take as a rule
const MOST_BYTES = 20_000_000;
const FIELD = /\{([a-z]+)\}/g;

/** Mail of issued packs: written, queued, read again. */
export class MailService {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /**
   * Queues an issue for each recipient, or keeps it in the outbox where no mail server is set.
   * The same request again adds nothing.
   * @throws ProblemError 422 for an unknown field, list or document, no recipient, or attachments too large to be taken;
   * 409 where the request was taken before and has been changed since
   */
  async sendIssue(companyId: number, issueId: number, mail: MailIssue): Promise<MailListingDto> {
    const { booksCache, issues, store, lists, actor, settings } = this.#parts;
    const books = await booksCache.of(companyId);
    const issue = await issues.of(books, issueId);
    const recipients = await lists.recipients(companyId, mail);
    const documents = issue.documents.filter(({ slice }) => mail.slices === undefined || mail.slices.includes(slice));
    if (documents.length === 0) throw refused('The issue has none of these documents.', 'slices');
    const fields: Readonly<Record<MailField, string>> = {
      company: books.name,
      name: issue.name,
      pack: issue.name,
      month: issue.monthName,
      issue: String(issue.number),
      fingerprint: documents.map(({ fingerprint }) => fingerprint).join(', '),
      link: `${settings.url}/c/${companyId}/packs/${issue.pack}/${issueId}`,
    };
    const attachments = documents.flatMap(({ slice }) => mail.formats.map((format) => ({ slice, format })));
    let bytes = 0;
    for (const each of attachments) bytes += (await issues.file({ company: companyId }, issueId, each)).content.length;
    refuseTooLarge(bytes);
    const message = {
      companyId,
      key: mail.key,
      recipients,
      subject: filled(mail.subject, { fields, path: 'subject' }),
      text: filled(mail.text, { fields, path: 'text' }),
      issue: issueId,
      attachments,
    };
    if (await store.hasOther(message))
      throw new ProblemError(
        409,
        'Mailed already',
        'This mail was accepted before it was changed, and is in the outbox as it was. Nothing was sent again. To send the changed one, start a new mail.',
      );
    await store.add({ ...message, files: [], state: settings.hasServer ? 'queued' : 'outbox' }, actor);
    return this.list(companyId, { issue: issueId, limit: 1000 });
  }

  /**
   * Queues files that are of no issue, such as a view or a watch report.
   * @param mail.more what follows the text, as it is
   * @throws ProblemError 422 for an unknown field or list, no recipient, or files too large to be taken
   */
  async sendFiles(
    companyId: number,
    mail: Pick<MailIssue, 'key' | 'to' | 'lists' | 'subject' | 'text'> & {
      readonly fields: MailFields;
      readonly more: string;
      readonly files: readonly MailFile[];
    },
  ): Promise<void> {
    const { store, lists, actor, settings } = this.#parts;
    refuseTooLarge(mail.files.reduce((sum, { content }) => sum + content.length, 0));
    const text = filled(mail.text, { fields: mail.fields, path: 'text' });
    await store.add(
      {
        companyId,
        key: mail.key,
        recipients: await lists.recipients(companyId, mail),
        subject: filled(mail.subject, { fields: mail.fields, path: 'subject' }),
        text: [text, mail.more].filter((part) => part !== '').join('\n\n'),
        issue: null,
        attachments: [],
        files: mail.files,
        state: settings.hasServer ? 'queued' : 'outbox',
      },
      actor,
    );
  }

  /** The address of a page of a company. */
  pageAddress(companyId: number, path: string): string {
    return `${this.#parts.settings.url}/c/${companyId}/${path}`;
  }

  /** Whether a request queued its messages already. */
  has(companyId: number, key: string): Promise<boolean> {
    return this.#parts.store.has(companyId, key);
  }

  async list(companyId: number, query: { readonly issue?: number | undefined; readonly limit: number }): Promise<MailListingDto> {
    const { store, settings } = this.#parts;
    return { ...(await store.list(companyId, query)), hasServer: settings.hasServer, from: settings.from };
  }

  /** A message as it can be read: text, attachments, and every try. @throws ProblemError 404 */
  async of(companyId: number, id: number): Promise<MailDetailDto> {
    const { store } = this.#parts;
    const row = await store.of(companyId, id);
    const attachments = await this.#attachments(row);
    return {
      ...messageDto(row),
      text: row.body,
      attachments: attachments.map(({ filename, content }) => ({ name: filename, bytes: content.length })),
      log: await store.log(id),
    };
  }

  /** A message as a file that mail programs open (RFC 5322). @throws ProblemError 404 */
  async file(companyId: number, id: number): Promise<{ readonly content: Buffer; readonly name: string }> {
    const row = await this.#parts.store.of(companyId, id);
    return { content: (await this.raw(row)).raw, name: `message-${id}.eml` };
  }

  /** A message as it goes over the wire: the same bytes at every try. */
  async raw(row: MailRow): Promise<RawMail> {
    const { from } = this.#parts.settings;
    const composer = new MailComposer({
      from,
      to: row.recipient,
      subject: row.subject,
      text: row.body,
      messageId: row.message_id,
      date: new Date(row.at),
      attachments: await this.#attachments(row),
    });
    const message = composer.compile();
    return { from: message.getEnvelope().from || from, to: row.recipient, raw: await message.build() };
  }

  async #attachments(row: MailRow): Promise<{ filename: string; content: Buffer; contentType: string }[]> {
    const { store, issues } = this.#parts;
    const { id, company_id: company, issue_id: issue } = row;
    if (issue === null) return (await store.files(row)).map(({ name, type, content }) => ({ filename: name, content, contentType: type }));
    const files: { filename: string; content: Buffer; contentType: string }[] = [];
    for (const attachment of await store.attachments(id)) {
      const { content, name } = await issues.file({ company }, issue, attachment);
      files.push({ filename: name, content, contentType: PACK_FILES[attachment.format].type });
    }
    return files;
  }
}

function refuseTooLarge(bytes: number): void {
  if (bytes > MOST_BYTES)
    throw refused(
      `The attachments have ${Math.ceil(bytes / 1_000_000)} MB; mail servers take ${MOST_BYTES / 1_000_000} MB. Choose fewer formats, or send the link alone.`,
      'formats',
    );
}

/** A text with its fields filled in. @throws ProblemError 422 for a field that does not exist, with those that do */
export function filled(text: string, { fields, path }: { readonly fields: MailFields; readonly path: string }): string {
  return text.replaceAll(FIELD, (_, name: string) => {
    const value = Object.hasOwn(fields, name) ? fields[name as MailField] : undefined;
    if (value !== undefined) return value;
    const known = MAIL_FIELDS.filter((field) => field in fields);
    throw refused(`There is no field {${name}} here. Use ${known.map((field) => `{${field}}`).join(', ')}.`, path);
  });
}
