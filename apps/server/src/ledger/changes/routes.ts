import {
  correctionPreviewSchema,
  correctionSchema,
  entryEffectSchema,
  entryHistorySchema,
  entryMadeSchema,
  entryTemplatesSchema,
  newEntryPreviewSchema,
  newEntrySchema,
  postDraftSchema,
  reclassificationPreviewSchema,
  reclassificationSchema,
  reversalPreviewSchema,
  reversalSchema,
  saveTemplateSchema,
  undoEntryChangeSchema,
} from '@wise-margin/contract';

import type { Actor } from '../../database/audit.ts';
import { type Route, route } from '../../http/route.ts';
import type { EntryChanges } from './entry-changes.ts';
import type { EntryMaking } from './entry-making.ts';
import type { EntryTemplates } from './entry-templates.ts';

const ENTRY = '/companies/:company/entries/:entry';
const TEMPLATES = '/companies/:company/entry-templates';
const MOVES = '/companies/:company/reclassifications';

/** Corrections and reclassifications of entries, previewed, made and undone. */
export const entryChangeRoutes = ({
  entryChanges,
  entryMaking,
  entryTemplates,
  actor,
}: {
  readonly entryChanges: EntryChanges;
  readonly entryMaking: EntryMaking;
  readonly entryTemplates: EntryTemplates;
  readonly actor: Actor;
}): readonly Route[] => [
  route({
    method: 'post',
    path: '/companies/:company/entries/preview',
    summary: 'What a new entry would do to accounts and statements',
    request: { body: newEntryPreviewSchema },
    response: entryEffectSchema,
    handle: ({ path, body }) => entryMaking.preview(path.company, body, actor),
  }),
  route({
    method: 'post',
    path: '/companies/:company/entries',
    summary: 'Make an entry, posted or in draft, and the one that reverses it',
    request: { body: newEntrySchema },
    response: entryMadeSchema,
    status: 201,
    handle: async ({ path, body }) => ({ entries: await entryMaking.create(path.company, body, actor) }),
  }),
  route({
    method: 'post',
    path: `${ENTRY}/post`,
    summary: 'Post a draft',
    request: { body: postDraftSchema },
    response: null,
    handle: ({ path, body }) => entryMaking.post(path, body.version, actor),
  }),
  route({
    method: 'post',
    path: `${ENTRY}/reversal/preview`,
    summary: 'What voiding or reversing an entry would do to accounts and statements',
    request: { body: reversalPreviewSchema },
    response: entryEffectSchema,
    handle: ({ path, body }) => entryMaking.previewReversal(path, body, actor),
  }),
  route({
    method: 'post',
    path: `${ENTRY}/reversal`,
    summary: 'Void an entry, or reverse it on a later day, by an entry linked to it',
    request: { body: reversalSchema },
    response: entryMadeSchema,
    status: 201,
    handle: async ({ path, body }) => ({ entries: await entryMaking.reverse(path, body, actor) }),
  }),
  route({
    method: 'post',
    path: `${ENTRY}/discard`,
    summary: 'Discard a draft; it stays on record',
    request: { body: postDraftSchema },
    response: null,
    handle: ({ path, body }) => entryMaking.discard(path, body.version, actor),
  }),
  route({
    method: 'get',
    path: TEMPLATES,
    summary: 'Templates of entries',
    response: entryTemplatesSchema,
    handle: ({ path }) => entryTemplates.list(path.company),
  }),
  route({
    method: 'post',
    path: TEMPLATES,
    summary: 'Keep an entry as a template, monthly when it has a next date',
    request: { body: saveTemplateSchema },
    response: entryTemplatesSchema,
    handle: ({ path, body }) => entryTemplates.save(path.company, body, actor),
  }),
  route({
    method: 'delete',
    path: `${TEMPLATES}/:template`,
    summary: 'Remove a template',
    response: entryTemplatesSchema,
    handle: ({ path }) => entryTemplates.remove(path.company, path.template, actor),
  }),
  route({
    method: 'post',
    path: `${TEMPLATES}/:template/next`,
    summary: 'Make the next draft of a monthly template',
    response: entryMadeSchema,
    status: 201,
    handle: async ({ path }) => ({ entries: await entryTemplates.createNext(path.company, path.template, actor) }),
  }),
  route({
    method: 'get',
    path: `${ENTRY}/history`,
    summary: 'Changes of an entry, the newest first, with what each replaced',
    response: entryHistorySchema,
    handle: ({ path }) => entryChanges.history(path),
  }),
  route({
    method: 'post',
    path: `${ENTRY}/correction/preview`,
    summary: 'What a correction would do to accounts and statements',
    request: { body: correctionPreviewSchema },
    response: entryEffectSchema,
    handle: ({ path, body }) => entryChanges.previewCorrection(path, body, actor),
  }),
  route({
    method: 'post',
    path: `${ENTRY}/correction`,
    summary: 'Correct an entry; its earlier version is kept',
    request: { body: correctionSchema },
    response: null,
    handle: ({ path, body }) => entryChanges.correct(path, body, actor),
  }),
  route({
    method: 'post',
    path: `${MOVES}/preview`,
    summary: 'What moving lines would do to accounts and statements',
    request: { body: reclassificationPreviewSchema },
    response: entryEffectSchema,
    handle: ({ path, body }) => entryChanges.previewReclassification(path.company, body, actor),
  }),
  route({
    method: 'post',
    path: MOVES,
    summary: 'Move lines to another account, dimension value or date, as one change',
    request: { body: reclassificationSchema },
    response: null,
    handle: ({ path, body }) => entryChanges.reclassify(path.company, body, actor),
  }),
  route({
    method: 'post',
    path: '/companies/:company/entry-changes/:change/undo',
    summary: 'Undo a change of entries as one',
    request: { body: undoEntryChangeSchema },
    response: null,
    handle: ({ path, body }) => entryChanges.undo(path, body.reason, actor),
  }),
];
