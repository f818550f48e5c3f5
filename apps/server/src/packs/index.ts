export { unmetCondition } from './content/condition.ts';
export { PackBuilder } from './content/pack-builder.ts';
export { PACK_FILES, PACK_TASKS } from './files/pack-formats.ts';
export { PackIssues } from './pack-issues.ts';
export { PackMonths } from './pack-months.ts';
export { packRoutes } from './routes.ts';
export { PackService } from './pack-service.ts';
export { PackStore } from './pack-store.ts';
