/** The command line was written wrongly; exit code 2. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}
/** The input was refused; the reasons are told on standard error, exit code 1. */
export class RefusedError extends Error {
  override readonly name = 'RefusedError';
}

export const USAGE = `Usage: npm run wm -- <verb> [options]

  demo                       make the demo companies, their ledgers and budgets
  import                     --accounts FILE --ledger FILE --company NAME
                             (a new company: also --currency USD --year-starts 4 [--adjustment-period])
  budget create              --year 2027 --from 2026 --change 3% --name NAME
                             [--change-revenue 5% --change-costOfSales 2% ...] [--round-to 100] [--approve]
                             a year under way: --projected (its months to come from its approved budget),
                             --annualize (the posted months brought to a year), or --unposted-as-zero
                             [--exclude-nonrecurring] leaves out disposals, insurance recoveries and what its text names
  budget list
  budget export              --budget NAME --file FILE.csv|FILE.xlsx [--year 2028]
  budget import              --budget NAME --file FILE.csv|FILE.xlsx [--year 2028] [--apply]
                             tells what the file would change; with --apply changes it
  cash                       --budget NAME [--year 2028]
                             planned cash at month ends, and how every balance moves (--format json)
  statistics                 --file F [--accept-new]
                             with --accept-new, dimensions and values the ledger does not have are meant
  statement VIEW             --as-of 2026-10 [--budget NAME] [--department NAME|none] [--decimals 2]
                             views: income (with --columns review|trend|months), outlook, vertical, expense-shares, departments, customers, trend,
                             trend-quarters, trend-years, five-years, balance, balance-vertical, balance-months, cash-flow, activity, ratios
  years open                 --year 2029
                             the fiscal year after the last or before the first one held
  trial-balance              --as-of 2026-10

Every verb takes --data DIR (default: demo-data), --company NAME (default: the only or first one),
and --format table|csv|json (default: table).
Exit code: 0 done, 1 the input was refused (reasons on standard error), 2 wrong usage.
`;
