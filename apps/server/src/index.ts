export { openApplication } from './application.ts';
export type { Application } from './application.ts';
export { createApp } from './app.ts';

export { ProblemError } from './http/problem.ts';
export { Evaluator, ScenarioCache } from './evaluation/index.ts';
export { cellText, ratioNumber } from './statements/index.ts';
export type { Actor } from './database/audit.ts';
export { openFiscalYear, periodCode } from './companies/index.ts';
export type { Books } from './companies/index.ts';
export { safeText } from './formats/safe-text.ts';
export type { ReportQueries } from './ledger/index.ts';
export { SUSPECT_HEADINGS, suspectRow } from './findings/index.ts';
export { smtpTransport } from './mail/index.ts';
export type { MailTransport } from './mail/index.ts';
