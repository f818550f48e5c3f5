import {
  BalancePlanService,
  BudgetHistory,
  BudgetService,
  BudgetStore,
  DeskService,
  ExchangeService,
  OneOffService,
  PlanService,
} from './budgets/index.ts';
import { BooksKeeper } from './companies/books.ts';
import type { Actor } from './database/audit.ts';
import { openDatabase, type Database } from './database/database.ts';
import { ImportService, LedgerService, StatisticsService } from './ledger/index.ts';
import { LogoStore } from './companies/logo.ts';
import { BenchmarkStore, Evaluator, StatementService, ViewStore } from './statements/index.ts';

/** The features over one data folder, for the server, the command line and the tests alike. */
export type Application = {
  readonly database: Database;
  readonly keeper: BooksKeeper;
  readonly ledger: LedgerService;
  readonly statistics: StatisticsService;
  readonly imports: ImportService;
  readonly budgetStore: BudgetStore;
  readonly evaluator: Evaluator;
  readonly views: ViewStore;
  readonly benchmarks: BenchmarkStore;
  readonly logos: LogoStore;
  readonly budgets: BudgetService;
  readonly desks: DeskService;
  readonly budgetHistory: BudgetHistory;
  readonly oneOffs: OneOffService;
  readonly plans: PlanService;
  readonly balancePlans: BalancePlanService;
  readonly exchange: ExchangeService;
  readonly statements: StatementService;
  readonly actor: Actor;
  readonly close: () => Promise<void>;
};

/**
 * Opens the application over a data folder, made when absent.
 * @param options.recover true for the one process that owns the folder: what a stop left half done is put right
 */
export async function openApplication(options: {
  readonly directory: string;
  readonly actor: Actor;
  readonly recover: boolean;
}): Promise<Application> {
  const database = await openDatabase(options.directory);
  const keeper = new BooksKeeper(database);
  const budgetStore = new BudgetStore(database);
  const benchmarks = new BenchmarkStore(database);
  const evaluator = new Evaluator(keeper, budgetStore, benchmarks);
  const budgetParts = { database, keeper, store: budgetStore, evaluator };
  const budgets = new BudgetService(budgetParts);
  const desks = new DeskService(budgetParts);
  const views = new ViewStore(database);
  const imports = new ImportService(database);
  if (options.recover) await imports.recover();
  return {
    database,
    keeper,
    imports,
    budgetStore,
    evaluator,
    views,
    benchmarks,
    logos: new LogoStore(database),
    ledger: new LedgerService(database, keeper),
    statistics: new StatisticsService(database, keeper),
    budgets,
    plans: new PlanService(budgetParts, budgets),
    oneOffs: new OneOffService(database, keeper),
    desks,
    budgetHistory: new BudgetHistory(budgetParts),
    balancePlans: new BalancePlanService(budgetParts),
    exchange: new ExchangeService(desks),
    statements: new StatementService({ keeper, evaluator, views, actor: options.actor }),
    actor: options.actor,
    close: async () => {
      await imports.close();
      await database.close();
    },
  };
}
