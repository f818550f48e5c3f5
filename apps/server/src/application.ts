import { mkdirSync } from 'node:fs';

import { schemaIssueWords } from '@wise-margin/presentation';
import { z } from 'zod';

import { AuditService } from './audit/index.ts';
import { BudgetStore } from './budget-store/index.ts';
import {
  BalancePlanService,
  BudgetCreation,
  BudgetFileService,
  BudgetHistory,
  BudgetReview,
  BudgetService,
  NonrecurringService,
  WorksheetService,
} from './budgets/index.ts';
import { CombinedBooksCache, CombinedService, GroupStore, RateStore } from './combined/index.ts';
import { BooksCache, LogoStore, PersonalChoices, VersionFeed } from './companies/index.ts';
import { CompanyRuns, RunStore } from './company-runs/index.ts';
import type { Actor } from './database/audit.ts';
import { type Database, openDatabase } from './database/database.ts';
import { lockFolder } from './database/folder-lock.ts';
import { DemoService } from './demo/index.ts';
import { BenchmarkStore, Evaluator, ScenarioCache } from './evaluation/index.ts';
import { Explainer, FindingList, FindingRecords, LineDrivers, MaterialityStore, PostingChecks, TieOuts } from './findings/index.ts';
import {
  EntryChanges,
  EntryList,
  EntryMaking,
  EntryTemplates,
  ImportService,
  LedgerService,
  PeriodService,
  type Report,
  ReportService,
  SavedFilters,
  StatisticsService,
} from './ledger/index.ts';
import { MailLists, MailSender, MailService, type MailSettings, MailStore, type MailTransport } from './mail/index.ts';
import { PackBuilder, PackIssues, PackMonths, PackService, PackStore, ShareService, ShareStore } from './packs/index.ts';
import { ClearingService, ReconciliationService, StatementImport, StatementStore } from './reconciliation/index.ts';
import { ScheduleClock, ScheduledMail, ScheduleService, ScheduleStore, WatchReports } from './schedules/index.ts';
import { EntryIndex, SearchService } from './search/index.ts';
import { StatementService, ViewStore } from './statements/index.ts';
import { inlinePool, type WorkPool } from './work/work-pool.ts';

/** The folder, made when absent, taken for one server. */
function ownFolder(directory: string): () => void {
  mkdirSync(directory, { recursive: true, mode: 0o700 });
  return lockFolder(directory);
}

/** The features over one data folder, for the server, the command line and the tests alike. */
export type Application = {
  readonly database: Database;
  readonly booksCache: BooksCache;
  readonly versions: VersionFeed;
  readonly ledger: LedgerService;
  readonly entryList: EntryList;
  readonly savedFilters: SavedFilters;
  readonly entryChanges: EntryChanges;
  readonly entryMaking: EntryMaking;
  readonly entryTemplates: EntryTemplates;
  readonly periods: PeriodService;
  readonly reports: ReportService;
  readonly statistics: StatisticsService;
  readonly imports: ImportService;
  readonly budgetStore: BudgetStore;
  readonly evaluator: Evaluator;
  readonly views: ViewStore;
  readonly benchmarks: BenchmarkStore;
  readonly logos: LogoStore;
  readonly personalChoices: PersonalChoices;
  readonly budgets: BudgetService;
  readonly worksheets: WorksheetService;
  readonly budgetHistory: BudgetHistory;
  readonly nonrecurring: NonrecurringService;
  readonly budgetCreation: BudgetCreation;
  readonly budgetReview: BudgetReview;
  readonly balancePlans: BalancePlanService;
  readonly budgetFiles: BudgetFileService;
  readonly statements: StatementService;
  readonly audit: AuditService;
  readonly materiality: MaterialityStore;
  readonly findingRecords: FindingRecords;
  readonly findingList: FindingList;
  readonly lineDrivers: LineDrivers;
  readonly explainer: Explainer;
  readonly postingChecks: PostingChecks;
  readonly tieOuts: TieOuts;
  readonly reconciliation: ReconciliationService;
  readonly clearings: ClearingService;
  readonly statementImport: StatementImport;
  readonly packStore: PackStore;
  readonly packMonths: PackMonths;
  readonly packIssues: PackIssues;
  readonly packs: PackService;
  readonly packShares: ShareService;
  readonly mail: MailService;
  readonly mailStore: MailStore;
  readonly mailLists: MailLists;
  readonly mailSender: MailSender;
  readonly scheduleStore: ScheduleStore;
  readonly schedules: ScheduleService;
  readonly scheduleClock: ScheduleClock;
  readonly companyRuns: CompanyRuns;
  readonly combinedStatements: CombinedService;
  readonly exchangeRates: RateStore;
  readonly entryIndex: EntryIndex;
  readonly search: SearchService;
  readonly demo: DemoService;
  readonly work: WorkPool;
  readonly actor: Actor;
  readonly close: () => Promise<void>;
};

// requests and files are checked by schemas; what they find wrong is told in our words
z.config({ customError: schemaIssueWords });

export type ApplicationOptions = {
  readonly directory: string;
  readonly actor: Actor;
  /** true for the one server that owns the folder: what a stop left half done is put right */
  readonly recover: boolean;
  /** takes what went wrong in work that nobody waits for */
  readonly report?: Report;
  /** where long work runs; left out, in this thread */
  readonly work?: WorkPool;
  /** how mail is sent; left out, it stays in the outbox */
  readonly mail?: Omit<MailSettings, 'hasServer'> & { readonly transport: MailTransport | null };
};

/**
 * Opens the application over a data folder, made when absent.
 * @throws FolderInUseError when another server owns the folder
 */
export async function openApplication(options: ApplicationOptions): Promise<Application> {
  const release = options.recover ? ownFolder(options.directory) : null;
  const database = await openDatabase(options.directory);
  const versions = new VersionFeed(database);
  const booksCache = new BooksCache(database, ({ id, version }) => versions.tell(id, version));
  const budgetStore = new BudgetStore(database);
  const benchmarks = new BenchmarkStore(database);
  const evaluator = new Evaluator(booksCache, budgetStore, benchmarks);
  const work = options.work ?? inlinePool();
  const nonrecurring = new NonrecurringService(database, booksCache);
  const budgetParts = { database, booksCache, store: budgetStore, evaluator, work, nonrecurring };
  const budgets = new BudgetService(budgetParts);
  const [budgetCreation, budgetReview] = [new BudgetCreation(budgetParts), new BudgetReview(budgetParts)];
  const worksheets = new WorksheetService(budgetParts);
  const views = new ViewStore(database);
  const report: Report = options.report ?? ((error) => process.emitWarning(error instanceof Error ? error : String(error)));
  const imports = new ImportService(database, report);
  const statistics = new StatisticsService(database, booksCache);
  const entryMaking = new EntryMaking(database, booksCache);
  const statements = new StatementService({ database, booksCache, evaluator, views, actor: options.actor });
  const [materiality, findingRecords] = [new MaterialityStore(database, evaluator), new FindingRecords(database)];
  const findingList = new FindingList({ booksCache, statements, materiality, records: findingRecords });
  const lineDrivers = new LineDrivers({ database, budgetStore });
  const entryIndex = new EntryIndex(database);
  const demo = new DemoService({
    database,
    imports,
    statistics,
    budgetCreation,
    budgetReview,
    worksheets,
    work,
    actor: options.actor,
    report,
  });
  const store = new StatementStore(database);
  const reconciliation = new ReconciliationService({
    database,
    booksCache,
    store,
    work,
    samplesOf: (id) => demo.bankStatements(id),
  });
  const explainer = new Explainer({ database, booksCache, statements, lineDrivers });
  const tieOuts = new TieOuts({ database, booksCache, evaluator, budgetStore, views, reconciliation, actor: options.actor });
  const reports = new ReportService({ database, booksCache, scenarios: new ScenarioCache(budgetStore), now: options.actor.now });
  const logos = new LogoStore(database);
  const [packStore, packMonths] = [new PackStore(database), new PackMonths(database)];
  const packIssues = new PackIssues(database, packMonths);
  const packSources = {
    booksCache,
    statements,
    reports,
    findingList,
    findingRecords,
    explainer,
    budgetStore,
    budgetReview,
    logos,
  };
  const builder = new PackBuilder({ ...packSources, database, actor: options.actor });
  const packs = new PackService({
    ...{ database, booksCache, findingList, tieOuts, work, builder, actor: options.actor },
    ...{ store: packStore, months: packMonths, issues: packIssues },
  });
  const [mailStore, mailLists] = [new MailStore(database), new MailLists(database)];
  const { transport = null, from = 'Wise Margin <wise-margin@localhost>', url = 'http://localhost:4180' } = options.mail ?? {};
  const settings: MailSettings = { hasServer: transport !== null, from, url };
  const packShares = new ShareService({
    ...{ booksCache, issues: packIssues, statements, store: new ShareStore(database), actor: options.actor, url },
  });
  const mail = new MailService({ booksCache, issues: packIssues, store: mailStore, lists: mailLists, actor: options.actor, settings });
  const mailSender = new MailSender({ store: mailStore, mail, transport, actor: options.actor, report });
  const scheduleStore = new ScheduleStore(database);
  const schedules = new ScheduleService({
    ...{ database, booksCache, packs, mail, statements, findingList, actor: options.actor },
    scheduledMail: new ScheduledMail({
      ...{ packStore, views, statements, mail, work, actor: options.actor },
      watchReports: new WatchReports({ database, tieOuts }),
    }),
    store: scheduleStore,
  });
  const scheduleClock = new ScheduleClock({ schedules, actor: options.actor, report, wake: () => mailSender.wake() });
  const [groups, exchangeRates] = [new GroupStore(database), new RateStore(database)];
  const combinedStatements = new CombinedService({
    combined: new CombinedBooksCache({ booksCache, budgetStore, rateStore: exchangeRates }),
    ...{ booksCache, groups, views, actor: options.actor },
  });
  const companyRuns = new CompanyRuns({
    ...{ booksCache, packs, packStore, packIssues, statements, findingList, mail, actor: options.actor, report },
    store: new RunStore(database),
  });
  if (options.recover) {
    await imports.recover();
    await companyRuns.recover();
  }
  return {
    database,
    booksCache,
    versions,
    imports,
    budgetStore,
    evaluator,
    views,
    benchmarks,
    logos,
    packStore,
    packMonths,
    packIssues,
    packs,
    packShares,
    mail,
    mailStore,
    mailLists,
    mailSender,
    scheduleStore,
    schedules,
    scheduleClock,
    companyRuns,
    combinedStatements,
    exchangeRates,
    personalChoices: new PersonalChoices(database),
    ledger: new LedgerService(database, booksCache),
    entryList: new EntryList(database, booksCache),
    savedFilters: new SavedFilters(database, booksCache),
    entryChanges: new EntryChanges(database, booksCache, entryMaking),
    entryMaking,
    entryTemplates: new EntryTemplates(database, booksCache, entryMaking),
    periods: new PeriodService(database, booksCache),
    reports,
    statistics,
    demo,
    budgets,
    budgetCreation,
    budgetReview,
    nonrecurring,
    worksheets,
    budgetHistory: new BudgetHistory(budgetParts),
    balancePlans: new BalancePlanService(budgetParts),
    budgetFiles: new BudgetFileService(worksheets, work),
    work,
    audit: new AuditService(database, booksCache),
    statements,
    materiality,
    findingRecords,
    findingList,
    lineDrivers,
    explainer,
    tieOuts,
    reconciliation,
    clearings: new ClearingService({ database, booksCache, entryMaking, store }),
    statementImport: new StatementImport({ database, booksCache, store }),
    entryIndex,
    search: new SearchService({ booksCache, views, packStore, budgetStore, findingList, entryIndex, actor: options.actor }),
    postingChecks: new PostingChecks({ database, booksCache, work }),
    actor: options.actor,
    close: async () => {
      versions.close();
      await imports.close();
      await entryIndex.close();
      await scheduleClock.close();
      await companyRuns.close();
      await mailSender.close();
      await work.close();
      await database.close();
      release?.();
    },
  };
}
