import {
  newPackSchema,
  PACK_FORMATS,
  packChangeSchema,
  packChecklistSchema,
  packIssueSchema,
  packListSchema,
  packMonthChangeSchema,
  packMonthSchema,
  packPagesSchema,
  packPreviewRequestSchema,
  packPreviewSchema,
  packSchema,
  packsQuerySchema,
  packsReadySchema,
  periodKeySchema,
  richTextSchema,
  sliceQuerySchema,
} from '@wise-margin/contract';

import type { Actor } from '../database/audit.ts';
import { refused } from '../http/problem.ts';
import { download, type Route, route } from '../http/route.ts';
import { PACK_FILES } from './files/pack-formats.ts';
import type { PackIssues } from './pack-issues.ts';
import type { MonthPlace, PackMonths } from './pack-months.ts';
import type { PackService } from './pack-service.ts';
import type { PackStore } from './pack-store.ts';

export type PackServices = {
  readonly packStore: PackStore;
  readonly packMonths: PackMonths;
  readonly packIssues: PackIssues;
  readonly packs: PackService;
  readonly actor: Actor;
};
const PACKS = '/companies/:company/packs';
const PACK = `${PACKS}/:pack` as const;
const MONTH = `${PACK}/months/:month` as const;
const ISSUE = '/companies/:company/pack-issues/:packIssue';

/** Review packs: their designs, their months, what was issued. */
export const packRoutes = (services: PackServices): readonly Route[] => [
  ...designRoutes(services),
  ...monthRoutes(services),
  ...issueRoutes(services),
];

function designRoutes({ packStore, packs, actor }: PackServices): readonly Route[] {
  return [
    route({
      method: 'get',
      path: PACKS,
      summary: 'The packs of a company, with where each is in a month',
      request: { query: packsQuerySchema },
      response: packListSchema,
      handle: ({ path, query }) => packs.list(path.company, query.month),
    }),
    route({
      method: 'post',
      path: PACKS,
      summary: 'Create a pack, for one company or for all',
      request: { body: newPackSchema },
      response: packSchema,
      status: 201,
      handle: ({ path, body }) => packStore.create(path.company, body, actor),
    }),
    route({
      method: 'get',
      path: PACK,
      summary: 'The design of a pack',
      response: packSchema,
      handle: ({ path }) => packStore.of(path),
    }),
    route({
      method: 'put',
      path: PACK,
      summary: 'Change a pack, for one company or for every company that has not changed its own',
      request: { body: packChangeSchema },
      response: packSchema,
      handle: ({ path, body }) => packStore.change(path, body, actor),
    }),
    route({
      method: 'delete',
      path: PACK,
      summary: 'Remove a company’s own design of a pack',
      response: null,
      handle: ({ path }) => packStore.remove(path, actor),
    }),
    route({
      method: 'post',
      path: '/companies/:company/pack-preview/ready',
      summary: 'Get ready for the packs of a month, since one is likely to be opened',
      request: { body: packsReadySchema },
      response: null,
      handle: ({ path, body }) => packs.ready(path.company, body.month),
    }),
    route({
      method: 'post',
      path: '/companies/:company/pack-preview',
      summary: 'The pages of a pack that is not saved',
      request: { body: packPreviewRequestSchema },
      response: packPreviewSchema,
      handle: ({ path, body, signal }) => packs.preview(path.company, body, signal),
    }),
  ];
}

/** @throws ProblemError 422 for a month that is not written as one */
function placeOf({ company, pack, month }: { readonly company: number; readonly pack: string; readonly month: string }): MonthPlace {
  const read = periodKeySchema.safeParse(month);
  if (!read.success) throw refused(read.error.issues[0]!.message, 'month');
  return { company, pack, month: read.data };
}

function monthRoutes({ packMonths, packs, actor }: PackServices): readonly Route[] {
  return [
    route({
      method: 'get',
      path: MONTH,
      summary: 'A pack in one month: state, texts, issues',
      response: packMonthSchema,
      handle: ({ path }) => packs.month(placeOf(path)),
    }),
    route({
      method: 'put',
      path: MONTH,
      summary: 'Change the texts, the meeting day or the state of a pack’s month',
      request: { body: packMonthChangeSchema },
      response: packMonthSchema,
      handle: async ({ path, body }) => {
        await packMonths.change(placeOf(path), body, actor);
        return packs.month(placeOf(path));
      },
    }),
    route({
      method: 'get',
      path: `${MONTH}/checklist`,
      summary: 'What wants a look before a pack is issued',
      response: packChecklistSchema,
      handle: ({ path }) => packs.checklist(placeOf(path)),
    }),
    route({
      method: 'get',
      path: `${MONTH}/drafted-summary`,
      summary: 'The summary that the month drafts itself, with live figures',
      response: richTextSchema,
      handle: ({ path }) => packs.draftedSummary(placeOf(path)),
    }),
    route({
      method: 'post',
      path: `${MONTH}/issues`,
      summary: 'Issue a pack: its figures, pages and files are frozen',
      response: packIssueSchema,
      status: 201,
      handle: ({ path }) => packs.issue(placeOf(path)),
    }),
    ...PACK_FORMATS.map((format) =>
      download({
        method: 'get',
        path: `${MONTH}/export.${format}`,
        summary: `A pack as it is now, as ${format.toUpperCase()}`,
        request: { query: sliceQuerySchema },
        type: PACK_FILES[format].type,
        handle: ({ path, query, signal }) => packs.export(placeOf(path), { ...query, format, signal }),
      }),
    ),
  ];
}

function issueRoutes({ packIssues, packs }: PackServices): readonly Route[] {
  return [
    route({
      method: 'get',
      path: ISSUE,
      summary: 'An issued pack with what it changed against the issue before',
      response: packIssueSchema,
      handle: ({ path }) => packs.issued(path.company, path.packIssue),
    }),
    route({
      method: 'get',
      path: `${ISSUE}/pages`,
      summary: 'The pages of an issued pack as they were',
      request: { query: sliceQuerySchema },
      response: packPagesSchema,
      handle: ({ path, query }) => packs.issuedPages(path.company, path.packIssue, query.slice),
    }),
    ...PACK_FORMATS.map((format) =>
      download({
        method: 'get',
        path: `${ISSUE}/export.${format}`,
        summary: `An issued pack as ${format.toUpperCase()}, as it was issued`,
        request: { query: sliceQuerySchema },
        type: PACK_FILES[format].type,
        handle: ({ path, query }) => packIssues.file(path, path.packIssue, { ...query, format }),
      }),
    ),
  ];
}
