export { LARGEST_MINOR, AmountOverflowError, minor, ZERO } from './money/minor.ts';
export type { Minor } from './money/minor.ts';
export { currency } from './money/currency.ts';
export type { Currency } from './money/currency.ts';
export { parseAmount, parseTypedAmount } from './money/parse-amount.ts';
export type { AmountIssue } from './money/parse-amount.ts';
export { apportion } from './money/apportion.ts';
export { toDecimalText, formatAmount, displayStep } from './money/format-amount.ts';
export type { DisplayUnit, AmountFormat } from './money/format-amount.ts';
export {
  PERIODS_PER_YEAR,
  monthCalendar,
  periodAt,
  periodOfKey,
  periodOfYear,
  slotCount,
  slotOfYear,
  firstSlot,
  lastSlot,
} from './calendar/fiscal-calendar.ts';
export type { PeriodIndex, Slot, FiscalCalendar } from './calendar/fiscal-calendar.ts';
export { SPAN_KINDS } from './calendar/span.ts';
export type { SpanKind, SpanDefinition } from './calendar/span.ts';
export { resolveSpan } from './calendar/span.ts';
export { shortPeriodName, longPeriodName, spanWords, monthOfYearName } from './calendar/period-words.ts';
export { ACCOUNT_CLASSES, ACCOUNT_CLASS_KEYS, classOf, findClass } from './chart/account-class.ts';
export type { Polarity, NaturalSign, AccountClass } from './chart/account-class.ts';
export { signOf, isIncomeAccount, isBalanceAccount } from './chart/account.ts';
export type { Account, Chart } from './chart/account.ts';
export { selects, selectsNumber } from './chart/selection.ts';
export type { AccountSelection } from './chart/selection.ts';
export type { Entry } from './ledger/entry.ts';
export type { ImportIssueCode, ImportIssue } from './ledger/import-issue.ts';
export { readLedgerHeader } from './ledger/ledger-layout.ts';
export type { LedgerLayout } from './ledger/ledger-layout.ts';
export { EntryReader } from './ledger/entry-reader.ts';
export type { YearRule } from './ledger/entry-reader.ts';
export { readAccountsFile } from './ledger/accounts-file.ts';
export { NO_FILTER, passes, filterKey } from './ledger/dimension.ts';
export type { DimensionCombination, DimensionFilter } from './ledger/dimension.ts';
export { BalanceCube } from './ledger/balance-cube.ts';
export type { BalanceLayer, BalanceFact } from './ledger/balance-cube.ts';
export { actualThrough, lastActualMonth, NO_ACTUALS, shownThrough } from './ledger/last-actual.ts';
export type { ChosenActual, LastActual, LastActualBasis, UnclearMonth } from './ledger/last-actual.ts';
export { sidesOf, layerOf, PostingSums } from './ledger/posting-sums.ts';
export { blank, notMeaningful } from './statements/cell.ts';
export type { RatioUnit, Cell } from './statements/cell.ts';
export { TOTAL_RULE } from './statements/line-set.ts';
export type { Line, LineRule, LineSet, RuleWeight } from './statements/line-set.ts';
export type { ScenarioRef, Column, Repeat, Block, ColumnSet } from './statements/column-set.ts';
export { parseExpression, RESERVED_NAMES } from './statements/expression.ts';
export type { Expression, ExpressionIssue } from './statements/expression.ts';
export { keyOfWords } from './statements/plan-lines.ts';
export type { PlannedLine } from './statements/planned-line.ts';
export type { PlannedColumn } from './statements/planned-column.ts';
export { sidesOn } from './statements/comparable-months.ts';
export { planStatement } from './statements/statement-plan.ts';
export type { StatementPlan, StatementIssue, PlanResult } from './statements/statement-plan.ts';
export type { ScenarioSource, ScenarioSources } from './statements/scenario-source.ts';
export { evaluate, shareBase } from './statements/evaluate.ts';
export type { StatementGrid } from './statements/evaluate.ts';
export type { AmountColumn } from './statements/planned-column.ts';
export { columnWords } from './statements/column-words.ts';
export { cellDrillDown } from './statements/cell-drill-down.ts';
export type { CellDrillDown } from './statements/cell-drill-down.ts';
export { INCOME_LINES } from './statements/shipped/income-lines.ts';
export { BALANCE_LINES } from './statements/shipped/balance-lines.ts';
export { CASH_FLOW_LINES } from './statements/shipped/cash-flow-lines.ts';
export { MONTHS_COLUMNS, REVIEW_COLUMNS, TREND_COLUMNS } from './statements/shipped/comparison-columns.ts';
export { STRIP_COLUMNS, BUDGET_GRID_COLUMNS, LINE_TREND_COLUMNS } from './statements/shipped/working-columns.ts';
export { SHIPPED_VIEWS, shippedView } from './statements/shipped/views.ts';
export { RATIOS } from './ratio/catalog.ts';
export { CASH_FLOW, CASH_FLOW_PARTS } from './cash-flow/cash-flow-part.ts';
export { capitalAccounts, classifyEntries } from './cash-flow/cash-flow-history.ts';
export type { AccountMovement, LedgerLine } from './cash-flow/cash-flow-history.ts';
export { accruedAccounts } from './cash-flow/accrued-accounts.ts';
export { cashFlowFacts } from './cash-flow/cash-flow-facts.ts';
export type { PartFact } from './cash-flow/cash-flow-facts.ts';
export { CASH_FLOW_CATEGORIES } from './chart/cashflow.ts';
export { rowAmount, yearTotal } from './budgets/budget-line.ts';
export type { BudgetMonth, BudgetLine } from './budgets/budget-line.ts';
export { SPREADS, SPREAD_KINDS } from './budgets/spread.ts';
export type { Spread, SpreadKind } from './budgets/spread.ts';
export { BASIS_KINDS, deriveYear, basisWords } from './budgets/basis.ts';
export type { Basis, BasisKind } from './budgets/basis.ts';
export { parseBudgetEntry } from './budgets/budget-entry.ts';
export { yearByMonth } from './ledger/year-by-month.ts';
export { FIRST_BASES, firstBudget, methodOfHistory } from './budgets/first-budget.ts';
export { lowestCash } from './balance-plan/lowest-cash.ts';
export { readyColumns } from './statements/ready-columns.ts';
export type { ReadyColumn } from './statements/ready-columns.ts';
export { wholeAccount } from './budgets/whole-account.ts';
export type { WholeAccount } from './budgets/whole-account.ts';
export type { ProposedMethod } from './budgets/proposed-method.ts';
export { effectOfLeavingOut, nonrecurringCandidates, nonrecurringFindings, smallestCandidate } from './budgets/nonrecurring.ts';
export type { EntryAtAccount, NonrecurringCandidate } from './budgets/nonrecurring.ts';
export type { NonrecurringReason } from './budgets/nonrecurring-reason.ts';
export { firstBudgetTotals } from './budgets/first-budget-totals.ts';
export type { FirstBasis } from './budgets/first-budget.ts';
export { MOST_IN_NAME, withoutControls } from './text/plain-text.ts';
export { withoutPercentSign } from './text/percent-text.ts';
export { compareNaturally } from './text/compare-naturally.ts';
export { nearMatches } from './text/near-matches.ts';
export { shownOrder } from './statements/shown-order.ts';
export {
  freeKey,
  addBlock,
  duplicateBlock,
  changeBlock,
  moveBlock,
  addColumn,
  changeColumn,
  moveColumn,
  renameColumn,
  columnPlaceOf,
} from './statements/edit-columns.ts';
export type { ColumnPlace } from './statements/edit-columns.ts';
export {
  walkLines,
  findLine,
  insertLine,
  duplicateLine,
  moveLine,
  stepLine,
  changeLine,
  renameLine,
  sectionOf,
  indentLine,
  outdentLine,
  moveToSection,
} from './statements/edit-lines.ts';
export {
  usesOfLine,
  usesOfColumn,
  usesOfBlock,
  removeLineAndUses,
  removeColumnAndUses,
  removeBlockAndUses,
  hideLine,
  lineAndColumnCount,
} from './statements/uses.ts';
export type { Use, ViewSets } from './statements/uses.ts';
export { bottomOfIncome, coverageOf } from './statements/coverage.ts';
export { parseAccountList, accountListText } from './chart/account-list.ts';
export { proposedAggregation } from './statements/proposed-aggregation.ts';
export type { StatisticOver } from './statements/line-set.ts';
export { readStatisticsFile } from './ledger/statistics-file.ts';
export type { StatisticFact, StatisticIssue } from './ledger/statistics-file.ts';
export { indexToBase } from './trend/index-to-base.ts';
export { spanDefinitionWords } from './calendar/span-definition-words.ts';
export { DEFAULT_DISPLAY, DISPLAY_FIELDS, fillFields } from './statements/display.ts';
export type { Display, DisplayField } from './statements/display.ts';
export { footGrid } from './statements/foot.ts';
export { NO_BENCHMARKS } from './statements/benchmark.ts';
export type { Benchmark, Benchmarks } from './statements/benchmark.ts';
export { STATISTIC } from './statements/statistic-figures.ts';
export { shownColumns } from './statements/shown-columns.ts';
export type { BasisIssue } from './budgets/bases/basis-context.ts';
export { basisContext } from './budgets/bases/empty-context.ts';
export { sliceKey } from './budgets/budget-books.ts';
export type { BudgetBooks, BudgetHead, Nonrecurring, PlacedLine } from './budgets/budget-books.ts';
export { historyMonths, sliceFilter } from './budgets/line-context.ts';
export { BudgetWorksheet, basisInSign } from './budgets/worksheet.ts';
export type { WorksheetResult, NoteChange } from './budgets/worksheet.ts';
export type { LineChange } from './budgets/line-trace.ts';
export type { BudgetNote, WorksheetBatch, WorksheetEdit, WorksheetIssue, WorksheetRefusal } from './budgets/worksheet-edit.ts';
export { BudgetFigures, lineFacts } from './budgets/budget-figures.ts';
export { actualScenario, budgetScenario, noScenario, projectionScenario, statisticScenario } from './statements/scenarios.ts';
export type { YearBudget } from './statements/scenarios.ts';
export { leastSquares } from './trend/least-squares.ts';
export { monthlyShares, averageOfShares } from './trend/seasonal-shares.ts';
export { compoundGrowth } from './trend/compound-growth.ts';
export { selectionFigures } from './budgets/selection-figures.ts';
export { checkFindings, checkKey } from './budgets/budget-checks.ts';
export type { CheckFinding } from './budgets/budget-checks.ts';
export { reforecast } from './budgets/reforecast.ts';
export { editsOfChanges, fileEffect, readBudgetFile } from './budgets/budget-file.ts';
export type { BudgetFileIssue, FileFigure, FilePlace } from './budgets/budget-file.ts';
export { driversOf, whatIf, yearsCompared } from './budgets/what-if.ts';
export type { WhatIf, YearCompared } from './budgets/what-if.ts';
export { signInTotal, editsOfProposal, targetProposal } from './budgets/target.ts';
export type { TargetProposal } from './budgets/target.ts';
export { DAYS_OF, BALANCE_RULES, BALANCE_RULE_KINDS, balanceRuleWords } from './balance-plan/balance-rule.ts';
export type { BalanceRule, BalanceRuleKind, DaysBase } from './balance-plan/balance-rule.ts';
export { LOAN_FORMS, levelPayment, loanSchedule } from './balance-plan/loan-schedule.ts';
export type { LoanForm } from './balance-plan/loan-schedule.ts';
export { rollForward } from './balance-plan/roll-forward.ts';
export type { RolledForward } from './balance-plan/roll-forward.ts';
export type { BalancePlanIssue } from './balance-plan/balance-plan-issue.ts';
export { balanceRuleIssue, balanceRulesFor } from './balance-plan/rule-issue.ts';
export type { BalanceRuleIssue } from './balance-plan/rule-issue.ts';
export { plannedBalanceColumns, plannedCashColumns } from './balance-plan/balance-plan-columns.ts';
export { DAYS_CLASSES } from './balance-plan/rule-from-history.ts';
export type { DaysClass } from './balance-plan/rule-from-history.ts';
export { LineTable, LineTableBuilder } from './ledger/line-table.ts';
export type { TableLine } from './ledger/line-table.ts';
export { findLines, lineTotals, sortLines } from './ledger/find-lines.ts';
export type { LineQuery, LineSort, LineTotals } from './ledger/find-lines.ts';
export { entryDifferences, entryIssues, periodOfEntry } from './ledger/entry-content.ts';
export type { EntryContent, EntryDifference, EntryIssue, LineContent } from './ledger/entry-content.ts';
export { ENTRY_KINDS, ENTRY_STATES } from './ledger/entry.ts';
export { changeEffect } from './statements/change-effect.ts';
export type { ChangeEffect } from './statements/change-effect.ts';
export { periodOfSlot } from './calendar/fiscal-calendar.ts';
export { readDate, readRange, yearsEarlier } from './reports/read-range.ts';
export type { RangeIssue, ReportRange } from './reports/read-range.ts';
export { accountMovements } from './reports/account-movements.ts';
export { dayNumber, daysBetween, daysLater } from './calendar/day-number.ts';
export type { CountedLines, Movement } from './reports/account-movements.ts';
export { accountDetail } from './reports/account-detail.ts';
export type { DetailedAccount } from './reports/account-detail.ts';
export { journalEntries } from './reports/journals.ts';
export { partyActivity } from './reports/party-activity.ts';
export type { PartyKind } from './reports/party-activity.ts';
export { agingAt, estimatedAllowance } from './aging/aging.ts';
export type { AgedParty, Aging } from './aging/aging.ts';
export { bucketNames, DEFAULT_BUCKETS } from './aging/buckets.ts';
export type { AgingBasis, AgingBuckets } from './aging/buckets.ts';
export type { ControlLine } from './aging/open-items.ts';
export { shareFactor } from './budgets/bases/percent.ts';
export { daysInMonth, isoDate, parseIsoDate } from './calendar/iso-date.ts';
export { periodOfDate } from './calendar/fiscal-calendar.ts';
export { percentDifferenceOf } from './variance/difference.ts';
export { correctingEntry, movingLines, nextMonth, reversingEntry } from './ledger/adjusting-entry.ts';
export { PERIOD_STATES } from './ledger/period-state.ts';
export type { PeriodState } from './ledger/period-state.ts';
export { figureLeaves, figureSides, groupLeaves, sumOfLeaves } from './statements/figure-groups.ts';
export type { FigureGroup, FigureLeaf, FigureSides, GroupBy } from './statements/figure-groups.ts';
export { suggestedMateriality } from './findings/materiality.ts';
export type { FindingSpan, Limit, Materiality } from './findings/materiality.ts';
export { spanOfComparison, spansOfComparison, COMPARISONS, findingColumns } from './findings/finding-columns.ts';
export type { Comparison } from './findings/finding-columns.ts';
export { materialVariances } from './findings/material-variances.ts';
export type { MaterialVariance } from './findings/material-variances.ts';
export { explainDifference } from './explanation/explain-difference.ts';
export type { Explanation, LayoutBy } from './explanation/explain-difference.ts';
export type { Cause } from './explanation/cause.ts';
export type { LedgerLines } from './explanation/ledger-side.ts';
export { OTHER, partsOf } from './explanation/difference-parts.ts';
export { checkPostings } from './posting-check/check-postings.ts';
export { learnedKey } from './posting-check/checked-ledger.ts';
export type { LineColumns } from './ledger/line-table.ts';
export type { CheckedLedger } from './posting-check/checked-ledger.ts';
export type { Reason, ReasonKind, Suspect } from './posting-check/suspect.ts';
export { readSearch } from './search/read-search.ts';
export type { AmountRange, SearchText } from './search/read-search.ts';
export { MATCH, matchNames } from './search/match-names.ts';
export type { NameMatch } from './search/match-names.ts';
export type { BankLine, CashLine, Clearing } from './reconciliation/bank-line.ts';
export { proposeMatches } from './reconciliation/propose-matches.ts';
export type { MatchBasis, MatchProposal, MatchProposals, NearMatch } from './reconciliation/propose-matches.ts';
export { reconcile } from './reconciliation/reconcile.ts';
export type { Reconciliation } from './reconciliation/reconcile.ts';
export type { IsoDate } from './calendar/iso-date.ts';
export { differenceAccount, isWatchedAccount } from './chart/watched-account.ts';
export { suggestAccount } from './reconciliation/suggest-account.ts';
export { drivenSegments, UNDRIVEN } from './explanation/driven-segments.ts';
export type { Driver } from './explanation/driven-segments.ts';
export { priceVolume } from './explanation/price-volume.ts';
export type { DrivenSegment, PriceVolume, PriceVolumePart } from './explanation/price-volume.ts';
export { EMPTY_TEXT, isEmptyText, lengthOfText, textOf, viewsOfText } from './packs/rich-text.ts';
export type { RichText, TextBlock, TextFigure, TextInline, TextItem } from './packs/rich-text.ts';
export { sectionDate } from './packs/section-date.ts';
export type { DateRule, SectionDate } from './packs/section-date.ts';
export { quarterColumns } from './packs/quarter-columns.ts';
export { issueChanges } from './packs/issue-changes.ts';
export type { IssueChange, IssuedFigure } from './packs/issue-changes.ts';
export { SHIPPED_PACKS, shippedPack } from './packs/shipped-packs.ts';
export type { Pack, Section, SectionBase, SectionCondition, SectionContent, SectionKind } from './packs/section.ts';
export { comparisonColumns } from './packs/comparison-columns.ts';
export { isTimeZone, wallTime } from './schedules/zoned-time.ts';
export { nextRuns, runsBetween } from './schedules/schedule.ts';
export type { Schedule, ScheduleDay, ScheduledRun } from './schedules/schedule.ts';
export { COMBINED_SCENARIOS, COMBINED_SPANS, companyColumns } from './combined/company-columns.ts';
export type { CombinedScenario, CombinedSpan } from './combined/company-columns.ts';
export { combinedBudget, combinedCashFlow, combinedLedger } from './combined/combined-facts.ts';
export { combinedLayout, COMPANY, INTERCOMPANY } from './combined/combined-layout.ts';
export type { CombinedLayout } from './combined/combined-layout.ts';
export { combinedSources, commonLast } from './combined/combined-scenarios.ts';
export type { MemberMonths } from './combined/combined-scenarios.ts';
export { monthsWithoutRates } from './combined/exchange-rates.ts';
export type { MonthRates, RateTable } from './combined/exchange-rates.ts';
export { ratesOfText } from './combined/rates-text.ts';
export type { RateIssue } from './combined/rates-text.ts';
