export { BANK_STATEMENT_NAMES, ternIslandFiles } from './tern-island/index.ts';
export { gannetRockFiles } from './gannet-rock/index.ts';
export { seededRandom } from './random.ts';
export type { Random } from './random.ts';
export { statementCamt, statementCsv, statementOfx } from './bank-statement.ts';
export type { DemoStatement } from './bank-statement.ts';
