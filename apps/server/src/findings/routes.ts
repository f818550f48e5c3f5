import {
  answerPostingSchema,
  changeFindingSchema,
  companyMaterialitySchema,
  explanationQuerySchema,
  findingNoteSchema,
  type FindingRecordDto,
  findingRecordQuerySchema,
  findingRecordSchema,
  findingsQuerySchema,
  findingsSchema,
  materialityPreviewSchema,
  materialitySchema,
  postingCheckQuerySchema,
  postingCheckSchema,
  setLineDriverSchema,
  setMaterialitySchema,
  tieOutsQuerySchema,
  tieOutsSchema,
  varianceExplanationSchema,
} from '@wise-margin/contract';
import { ACCOUNT_CLASSES } from '@wise-margin/core';
import type { z } from 'zod';

import type { BooksCache } from '../companies/index.ts';
import type { Actor } from '../database/audit.ts';
import { download, type Route, route } from '../http/route.ts';
import type { Explained, Explainer } from './explainer.ts';
import type { FindingList } from './finding-list.ts';
import type { FindingKey, FindingRecords } from './finding-records.ts';
import type { LineDrivers } from './line-drivers.ts';
import type { MaterialityStore } from './materiality-store.ts';
import type { PostingChecks } from './posting-checks.ts';
import { suspectsCsv } from './suspects-csv.ts';
import type { TieOuts } from './tie-outs/tie-outs.ts';

export type FindingServices = {
  readonly booksCache: BooksCache;
  readonly materiality: MaterialityStore;
  readonly findingList: FindingList;
  readonly explainer: Explainer;
  readonly lineDrivers: LineDrivers;
  readonly findingRecords: FindingRecords;
  readonly postingChecks: PostingChecks;
  readonly tieOuts: TieOuts;
  readonly actor: Actor;
};
const FINDINGS = '/companies/:company/findings';
const MATERIALITY = '/companies/:company/materiality';

/** Findings, why they arose, what people said about them, and the limits past which a variance is one. */
export const findingRoutes = (services: FindingServices): readonly Route[] => [
  route({
    method: 'get',
    path: FINDINGS,
    summary: 'Variances past the materiality limits as of a month',
    request: { query: findingsQuerySchema },
    response: findingsSchema,
    handle: ({ path, query }) => services.findingList.list(path.company, query),
  }),
  route({
    method: 'get',
    path: '/companies/:company/explanation',
    summary: 'Why two amounts differ: parts in every layout, causes in the ledger, and a sentence',
    request: { query: explanationQuerySchema },
    response: varianceExplanationSchema,
    handle: ({ path, query }) => services.explainer.explain(path.company, query),
  }),
  route({
    method: 'put',
    path: '/companies/:company/line-drivers',
    summary: 'Set the statistic that the volumes of a line are, or none',
    request: { body: setLineDriverSchema },
    response: null,
    handle: async ({ path, body }) =>
      services.lineDrivers.set(await services.booksCache.of(path.company), { ...body, actor: services.actor }),
  }),
  route({
    method: 'get',
    path: '/companies/:company/tie-outs',
    summary: 'Pairs of figures that must agree, each with both figures and their difference',
    request: { query: tieOutsQuerySchema },
    response: tieOutsSchema,
    handle: ({ path, query }) => services.tieOuts.list(path.company, query.asOf, query.again === 'yes'),
  }),
  ...recordRoutes(services),
  ...postingRoutes(services),
  ...materialityRoutes(services),
];

function recordRoutes({ explainer, findingRecords, actor }: FindingServices): readonly Route[] {
  const explained = (
    company: number,
    { view, line, comparison, month, span }: z.infer<typeof findingRecordQuerySchema>,
  ): Promise<Explained> => explainer.explained(company, { view, line, comparison, span, asOf: month, filter: {}, by: 'all' });
  const keyOf = (companyId: number, { view, line, comparison, month }: Omit<FindingKey, 'companyId'>): FindingKey => ({
    companyId,
    view,
    line,
    comparison,
    month,
  });
  const answer = (key: FindingKey, { valueOf }: Explained): Promise<FindingRecordDto> => findingRecords.of(key, valueOf);
  const nameOf = ({ grid, line }: Explained): string => grid.plan.lines[line]!.name;
  return [
    route({
      method: 'get',
      path: `${FINDINGS}/record`,
      summary: 'Status, owner, comment, questions and history of a finding',
      request: { query: findingRecordQuerySchema },
      response: findingRecordSchema,
      handle: async ({ path, query }) => answer(keyOf(path.company, query), await explained(path.company, query)),
    }),
    route({
      method: 'put',
      path: `${FINDINGS}/record`,
      summary: 'Change the status, owner, due date or comment of a finding',
      request: { body: changeFindingSchema },
      response: findingRecordSchema,
      handle: async ({ path, body }) => {
        const of = await explained(path.company, body);
        const key = keyOf(path.company, body);
        await findingRecords.change(key, body, { actor, explained: of, name: nameOf(of) });
        return answer(key, of);
      },
    }),
    route({
      method: 'post',
      path: `${FINDINGS}/notes`,
      summary: 'Ask the owner of a finding, or answer',
      request: { body: findingNoteSchema },
      response: findingRecordSchema,
      handle: async ({ path, body }) => {
        const of = await explained(path.company, body);
        const key = keyOf(path.company, body);
        await findingRecords.note(key, body, { actor, name: nameOf(of) });
        return answer(key, of);
      },
    }),
  ];
}

function materialityRoutes({ booksCache, materiality, findingList, actor }: FindingServices): readonly Route[] {
  const answer = async (company: number) => {
    const books = await booksCache.of(company);
    const lines = await findingList.lines(company);
    const classes = Object.entries(ACCOUNT_CLASSES).flatMap(([key, { name, statement }]) =>
      statement === 'income' ? [{ key, name }] : [],
    );
    const limits = await materiality.of(books);
    return {
      ...limits,
      changedBy: await materiality.changedBy(),
      materiality: { ...limits.materiality, overrides: [...limits.materiality.overrides] },
      lines,
      classes,
    };
  };
  return [
    route({
      method: 'get',
      path: MATERIALITY,
      summary: 'Limits past which a variance is a finding',
      response: companyMaterialitySchema,
      handle: ({ path }) => answer(path.company),
    }),
    route({
      method: 'put',
      path: MATERIALITY,
      summary: 'Set the limits past which a variance is a finding, for one company or for every company without its own',
      request: { body: setMaterialitySchema },
      response: companyMaterialitySchema,
      handle: async ({ path, body }) => {
        await materiality.set(await booksCache.of(path.company), body, actor);
        return answer(path.company);
      },
    }),
    route({
      method: 'delete',
      path: MATERIALITY,
      summary: 'Take a company’s own limits back',
      response: null,
      handle: async ({ path }) => materiality.remove(await booksCache.of(path.company), actor),
    }),
    route({
      method: 'post',
      path: `${MATERIALITY}/preview`,
      summary: 'How many findings some limits give in each of the last twelve months',
      request: { body: findingsQuerySchema.extend({ materiality: materialitySchema }) },
      response: materialityPreviewSchema,
      handle: ({ path, body }) => findingList.preview(path.company, body),
    }),
  ];
}

const POSTINGS = '/companies/:company/posting-checks';
function postingRoutes({ booksCache, postingChecks, actor }: FindingServices): readonly Route[] {
  return [
    route({
      method: 'get',
      path: POSTINGS,
      summary: 'Unusual postings, the most suspicious first, each with its reasons',
      request: { query: postingCheckQuerySchema },
      response: postingCheckSchema,
      handle: ({ path, query }) => postingChecks.list(path.company, query),
    }),
    download({
      method: 'get',
      path: `${POSTINGS}/export.csv`,
      summary: 'Unusual postings, as a file',
      request: { query: postingCheckQuerySchema },
      type: 'text/csv',
      handle: async ({ path, query }) => {
        const { currency } = await booksCache.of(path.company);
        const { suspects } = await postingChecks.list(path.company, { ...query, limit: 1000 });
        return { content: suspectsCsv(suspects, currency.exponent), name: 'posting-checks.csv' };
      },
    }),
    route({
      method: 'post',
      path: `${POSTINGS}/answers`,
      summary: 'Answer a suspected posting: fine, needs correction, or corrected',
      request: { body: answerPostingSchema },
      response: null,
      handle: ({ path, body }) => postingChecks.answer(path.company, body, actor),
    }),
  ];
}
