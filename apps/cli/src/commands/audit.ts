import { auditExportQuerySchema } from '@wise-margin/contract';
import type { Application } from '@wise-margin/server';

import { chosenCompany } from '../company.ts';
import type { Answer } from '../output.ts';
import { RefusedError } from '../usage.ts';

export type AuditOptions = {
  readonly company?: string | undefined;
  readonly from?: string | undefined;
  readonly to?: string | undefined;
  readonly area?: string | undefined;
  readonly find?: string | undefined;
};

/** The audit trail of a company, oldest first; one row for each field that changed. */
export async function listAudit(application: Application, options: AuditOptions): Promise<Answer> {
  const company = await chosenCompany(application, options.company);
  const { from, to, area, find } = options;
  const events = await application.audit.all(company.id, auditExportQuerySchema.parse({ from, to, area, find }));
  return {
    title: `${company.name}\nAudit trail, ${events.length} changes`,
    headings: ['event', 'at', 'person', 'area', 'change', 'field', 'from', 'to', 'reason'],
    rows: events.flatMap(({ id, at, actor, area: of, words, reason, changes }) =>
      (changes.length > 0 ? changes : [{ what: '', from: '', to: '' }]).map((change) => [
        String(id),
        at,
        actor,
        of,
        words,
        change.what,
        change.from,
        change.to,
        reason,
      ]),
    ),
    figures: new Set([0]),
    json: { company: company.name, events },
  };
}

/**
 * Reads the whole chain of events.
 * @throws RefusedError naming every event that was changed, removed or inserted
 */
export async function verifyAuditTrail(application: Application): Promise<Answer> {
  const { events, faults } = await application.audit.verify();
  if (faults.length > 0) throw new RefusedError(`The audit trail was tampered with.\n${faults.map(({ words }) => words).join('\n')}`);
  return {
    title: 'Audit trail',
    headings: ['events', 'result'],
    rows: [[String(events), 'Every event follows the one before it.']],
    figures: new Set([0]),
    json: { events, faults },
  };
}
