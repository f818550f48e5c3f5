import {
  mailDetailSchema,
  mailIssueSchema,
  mailListingSchema,
  mailListsSchema,
  mailQuerySchema,
  setMailListSchema,
} from '@wise-margin/contract';

import type { Actor } from '../database/audit.ts';
import { EML_TYPE } from '../formats/media-types.ts';
import { download, type Route, route } from '../http/route.ts';
import type { MailLists } from './mail-lists.ts';
import type { MailSender } from './mail-sender.ts';
import type { MailService } from './mail-service.ts';
import type { MailStore } from './mail-store.ts';

export type MailServices = {
  readonly mail: MailService;
  readonly mailStore: MailStore;
  readonly mailLists: MailLists;
  readonly mailSender: MailSender;
  readonly actor: Actor;
};
const MAIL = '/companies/:company/mail';
const MESSAGE = `${MAIL}/:mailMessage` as const;
const LISTS = '/companies/:company/mail-lists';

/** Mail of issued packs, the outbox, and lists of people. */
export const mailRoutes = ({ mail, mailStore, mailLists, mailSender, actor }: MailServices): readonly Route[] => [
  route({
    method: 'post',
    path: '/companies/:company/pack-issues/:packIssue/mail',
    summary: 'Mail an issued pack to people and lists',
    request: { body: mailIssueSchema },
    response: mailListingSchema,
    status: 202,
    handle: async ({ path, body }) => {
      const listing = await mail.sendIssue(path.company, path.packIssue, body);
      mailSender.wake();
      return listing;
    },
  }),
  route({
    method: 'get',
    path: MAIL,
    summary: 'Messages of a company, the latest first',
    request: { query: mailQuerySchema },
    response: mailListingSchema,
    handle: ({ path, query }) => mail.list(path.company, query),
  }),
  route({
    method: 'get',
    path: MESSAGE,
    summary: 'A message with its text, its attachments and every try',
    response: mailDetailSchema,
    handle: ({ path }) => mail.of(path.company, path.mailMessage),
  }),
  download({
    method: 'get',
    path: `${MESSAGE}/message.eml`,
    summary: 'A message as a file that mail programs open',
    type: EML_TYPE,
    handle: ({ path }) => mail.file(path.company, path.mailMessage),
  }),
  route({
    method: 'post',
    path: `${MESSAGE}/again`,
    summary: 'Send a failed message again',
    response: mailDetailSchema,
    handle: async ({ path }) => {
      await mailStore.again(path.company, path.mailMessage, actor);
      mailSender.wake();
      return mail.of(path.company, path.mailMessage);
    },
  }),
  route({
    method: 'get',
    path: LISTS,
    summary: 'Lists of people that mail goes to',
    response: mailListsSchema,
    handle: ({ path }) => mailLists.list(path.company),
  }),
  route({
    method: 'put',
    path: LISTS,
    summary: 'Save a list of people; without addresses it is removed',
    request: { body: setMailListSchema },
    response: mailListsSchema,
    handle: ({ path, body }) => mailLists.set(path.company, body, actor),
  }),
];
