import { BUDGET_TASKS } from './budgets/index.ts';
import { DEMO_FILES } from './demo/index.ts';
import { FINDING_TASKS } from './findings/index.ts';
import { REPORT_TASKS } from './ledger/index.ts';
import { PACK_TASKS } from './packs/index.ts';
import { RECONCILIATION_TASKS } from './reconciliation/index.ts';
import { EXPORT_TASKS } from './statements/index.ts';

/** Every task that a worker thread can run. */
export const TASKS = [
  ...BUDGET_TASKS,
  ...EXPORT_TASKS,
  ...REPORT_TASKS,
  ...FINDING_TASKS,
  ...PACK_TASKS,
  ...RECONCILIATION_TASKS,
  DEMO_FILES,
];
