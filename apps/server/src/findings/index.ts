export { Explainer } from './explainer.ts';
export { FindingList } from './finding-list.ts';
export { FindingRecords } from './finding-records.ts';
export { MaterialityStore } from './materiality-store.ts';
export { PostingChecks } from './posting-checks.ts';
export { FINDING_TASKS } from './posting-task.ts';
export { SUSPECT_HEADINGS, suspectRow } from './suspects-csv.ts';
export { TieOuts } from './tie-outs/tie-outs.ts';
export { findingRoutes } from './routes.ts';
