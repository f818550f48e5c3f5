import {
  correctionPreviewSchema,
  correctionSchema,
  entryEffectSchema,
  entryHistorySchema,
  reclassificationPreviewSchema,
  reclassificationSchema,
  undoEntryChangeSchema,
} from '@wise-margin/contract';

import type { Actor } from '../../database/audit.ts';
import { type Route, route } from '../../http/route.ts';
import type { EntryChanges } from './entry-changes.ts';

const ENTRY = '/companies/:company/entries/:entry';
const MOVES = '/companies/:company/reclassifications';

/** Corrections and reclassifications of entries, previewed, made and undone. */
export const entryChangeRoutes = ({
  entryChanges,
  actor,
}: {
  readonly entryChanges: EntryChanges;
  readonly actor: Actor;
}): readonly Route[] => [
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
    handle: ({ path, body }) => entryChanges.previewCorrection(path, body),
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
    handle: ({ path, body }) => entryChanges.previewReclassification(path.company, body),
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
