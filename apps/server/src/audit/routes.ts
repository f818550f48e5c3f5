import {
  auditExportQuerySchema,
  auditQuerySchema,
  auditTrailSchema,
  auditVerificationSchema,
  reviewEventSchema,
} from '@wise-margin/contract';
import { stringify } from 'csv-stringify/sync';

import type { Actor } from '../database/audit.ts';
import { safeText } from '../formats/safe-text.ts';
import { download, type Route, route } from '../http/route.ts';
import type { AuditService } from './audit-service.ts';

const AUDIT = '/companies/:company/audit';

/** The audit trail of a company, its file, and the check of its chain. */
export const auditRoutes = ({ audit, actor }: { readonly audit: AuditService; readonly actor: Actor }): readonly Route[] => [
  route({
    method: 'get',
    path: AUDIT,
    summary: 'Changes on record, the newest first',
    request: { query: auditQuerySchema },
    response: auditTrailSchema,
    handle: ({ path, query }) => audit.page(path.company, query),
  }),
  download({
    method: 'get',
    path: `${AUDIT}/export.csv`,
    summary: 'Changes on record, oldest first, one row for each field that changed',
    request: { query: auditExportQuerySchema },
    type: 'text/csv',
    handle: async ({ path, query }) => {
      const events = await audit.all(path.company, query);
      const rows = events.flatMap(({ id, at, actor, area, words, reason, changes, reviewed }) =>
        (changes.length > 0 ? changes : [{ what: '', from: '', to: '' }]).map(({ what, from, to }) => [
          String(id),
          at,
          ...[actor, area, words, what, from, to, reason, reviewed?.actor ?? '', reviewed?.at ?? ''].map(safeText),
        ]),
      );
      const headings = ['event', 'at', 'person', 'area', 'change', 'field', 'from', 'to', 'reason', 'reviewed by', 'reviewed at'];
      return { content: stringify([headings, ...rows]), name: 'audit-trail.csv' };
    },
  }),
  route({
    method: 'put',
    path: `${AUDIT}/:event/review`,
    summary: 'Tick a change off as reviewed, or take the tick back',
    request: { body: reviewEventSchema },
    response: null,
    handle: ({ path, body }) => audit.review(path, body.reviewed, actor),
  }),
  route({
    method: 'get',
    path: '/audit/verification',
    summary: 'Whether every event on record still follows the one before it',
    response: auditVerificationSchema,
    handle: () => audit.verify(),
  }),
];
