import { parseArgs } from 'node:util';

import { REPORTS } from '@wise-margin/contract';
import { ACCOUNT_CLASS_KEYS } from '@wise-margin/core';
import { type Application, openApplication, ProblemError, smtpTransport } from '@wise-margin/server';
import { ZodError } from 'zod';

import { type AuditOptions, listAudit, verifyAuditTrail } from './commands/audit.ts';
import { createBudget } from './commands/budget.ts';
import { type BudgetWorkOptions, exportBudget, importBudget, listBudgets, printBalancePlan } from './commands/budget-work.ts';
import { correctEntry, type CorrectOptions } from './commands/correct.ts';
import { makeDemo } from './commands/demo.ts';
import { type EntriesOptions, listEntries, reclassifyLines, type ReclassifyOptions } from './commands/entries.ts';
import { checkPostings, checkTieOuts, explainFigure, listFindings } from './commands/findings.ts';
import { importFiles } from './commands/import.ts';
import { issuePack, listOutbox, listPacks, previewPack, sendPack } from './commands/packs.ts';
import { changePeriod, chooseLastActual, listPeriods, type PeriodsOptions } from './commands/periods.ts';
import { reconcileBank } from './commands/reconcile.ts';
import { printReport } from './commands/reports.ts';
import { runCompanies } from './commands/run-companies.ts';
import { listSchedules, runSchedules } from './commands/schedules.ts';
import { searchCompany } from './commands/search.ts';
import { statement, type StatementOptions } from './commands/statement.ts';
import { importStatistics, type StatisticsOptions } from './commands/statistics.ts';
import { openYear } from './commands/years.ts';
import { type Answer, type Format, print } from './output.ts';
import { RefusedError, USAGE, UsageError } from './usage.ts';

const TEXTS = [
  'file',
  'data',
  'company',
  'format',
  'accounts',
  'ledger',
  'currency',
  'year-starts',
  'year',
  'from',
  'change',
  'name',
  'round-to',
  'as-of',
  'columns',
  'budget',
  'department',
  'decimals',
  'to',
  'area',
  'find',
  'least',
  'most',
  'to-account',
  'to-department',
  'to-date',
  'reason',
  'range',
  'compare',
  'class',
  'kind',
  'by',
  'days',
  'months',
  'buckets',
  'percents',
  'journal',
  'period',
  'entry',
  'amount',
  'date',
  'line',
  'post-in',
  'view',
  'column',
  'account',
  'pack',
  'attach',
  'subject',
  'until',
  'companies',
];
const FLAGS = [
  'help',
  'apply',
  'approve',
  'adjustment-period',
  'projected',
  'annualize',
  'unposted-as-zero',
  'exclude-nonrecurring',
  'accept-new',
  'drafts',
  'zero',
  'inactive',
  'idle',
  'detail',
  'earlier',
  'soft',
  'only-clear',
  'anyway',
];
type Values = Readonly<Record<string, string | boolean | undefined>>;
/** What follows a verb: the data folder, and further words. */
type Rest = { readonly directory: string; readonly words: readonly string[] };
type Verb = (application: Application, values: Values, rest: Rest) => Promise<Answer>;
const VERBS: Readonly<Record<string, Verb>> = {
  demo: (application, _, { directory }) => makeDemo(application, directory),
  import: (application, values) => importFiles(application, values as Parameters<typeof importFiles>[1]),
  'budget create': createBudget,
  'budget list': (application, values) => listBudgets(application, values as BudgetWorkOptions),
  'budget export': (application, values) => exportBudget(application, values as BudgetWorkOptions),
  'budget import': (application, values) => importBudget(application, values as BudgetWorkOptions),
  entries: (application, values) => listEntries(application, values as EntriesOptions),
  reclassify: (application, values) => reclassifyLines(application, values as ReclassifyOptions),
  correct: (application, values) => correctEntry(application, values as CorrectOptions),
  findings: listFindings,
  explain: explainFigure,
  'postings check': checkPostings,
  'tie-outs': checkTieOuts,
  search: searchCompany,
  reconcile: reconcileBank,
  'pack list': listPacks,
  'pack preview': previewPack,
  'pack issue': issuePack,
  'pack send': sendPack,
  outbox: listOutbox,
  'schedules list': listSchedules,
  'schedules run': runSchedules,
  'run-companies': runCompanies,
  'periods list': (application, values) => listPeriods(application, values as PeriodsOptions),
  'periods close': (application, values) => changePeriod(application, 'close', values as PeriodsOptions),
  'periods open': (application, values) => changePeriod(application, 'open', values as PeriodsOptions),
  'periods actual': (application, values) => chooseLastActual(application, values as PeriodsOptions),
  'audit list': (application, values) => listAudit(application, values as AuditOptions),
  'audit verify': (application) => verifyAuditTrail(application),
  'balance-plan': (application, values) => printBalancePlan(application, values as BudgetWorkOptions),
  statement: (application, values, { words: [view] }) => statement(application, view, values as StatementOptions),
  statistics: (application, values) =>
    importStatistics(application, { ...(values as StatisticsOptions), acceptNew: values['accept-new'] === true }),
  'years open': (application, values) => openYear(application, values as Parameters<typeof openYear>[1]),
  ...Object.fromEntries(REPORTS.map((key): [string, Verb] => [key, (application, values) => printReport(key, application, values)])),
};

/** Runs one command. @returns the exit code */
export async function run(
  args: readonly string[],
  write: { readonly out: (text: string) => void; readonly error: (text: string) => void },
): Promise<number> {
  try {
    const { values, positionals } = readArguments(args);
    if (values.help === true || positionals.length === 0) {
      write.out(USAGE);
      return values.help === true ? 0 : 2;
    }
    const named = positionals[0] === 'statement' ? 1 : positionals.length;
    const verb = VERBS[positionals.slice(0, named).join(' ')];
    if (!verb || positionals.length > Math.max(named, 2)) throw new UsageError(`there is no verb "${positionals.join(' ')}"`);
    const format = (values.format ?? 'table') as Format;
    if (!['table', 'csv', 'json'].includes(format)) throw new UsageError(`--format is table, csv or json, not ${format}`);
    const directory = (values.data as string | undefined) ?? 'demo-data';
    const application = await openApplication({
      directory,
      recover: false,
      actor: { name: process.env.WISE_MARGIN_PERSON ?? 'Command line', now: () => new Date() },
      mail: {
        transport: process.env.SMTP_URL ? smtpTransport(process.env.SMTP_URL) : null,
        from: process.env.MAIL_FROM ?? 'Wise Margin <wise-margin@localhost>',
        url: process.env.WISE_MARGIN_URL ?? 'http://localhost:4180',
      },
    });
    try {
      write.out(print(await verb(application, values, { directory, words: positionals.slice(named) }), format));
      return 0;
    } finally {
      await application.close();
    }
  } catch (error) {
    if (error instanceof UsageError) {
      write.error(`wm: ${error.message}\n\n${USAGE}`);
      return 2;
    }
    if (error instanceof RefusedError || error instanceof ProblemError) {
      write.error(`${error.message}\n`);
      return 1;
    }
    if (error instanceof ZodError) {
      write.error(`${error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`).join('\n')}\n`);
      return 1;
    }
    throw error;
  }
}

/** `--change -3%` as `--change=-3%`: what begins with a minus and a digit is a value, not an option. */
const withNegatives = (args: readonly string[]): string[] =>
  args.reduce<string[]>((read, each) => {
    const last = read.at(-1);
    if (/^-[\d.]/.test(each) && last?.startsWith('--') && !last.includes('=')) return [...read.slice(0, -1), `${last}=${each}`];
    return [...read, each];
  }, []);

function readArguments(args: readonly string[]): { values: Values; positionals: string[] } {
  const texts = [...TEXTS, ...ACCOUNT_CLASS_KEYS.map((key) => `change-${key}`)];
  const options = Object.fromEntries([
    ...texts.map((name) => [name, { type: 'string' }] as const),
    ...FLAGS.map((name) => [name, { type: 'boolean' }] as const),
  ]);
  try {
    const { values, positionals } = parseArgs({ args: withNegatives(args), options, allowPositionals: true, strict: true });
    return { values: values as Values, positionals };
  } catch (error) {
    throw new UsageError(error instanceof Error ? error.message : String(error));
  }
}
