export { openApplication } from './application.ts';
export type { Application } from './application.ts';
export { createApp } from './http/app.ts';
export { OPENAPI_PATHS, openApiDocument } from './http/openapi.ts';
export { ProblemError } from './http/problem.ts';
export { Evaluator, ScenarioKeeper, cellText, ratioNumber } from './statements/index.ts';
export type { Actor } from './database/audit.ts';
export { periodCode } from './companies/books.ts';
export { safeText } from './formats/safe-text.ts';
