/** The command line is not valid; exit code 2. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}
/** The input was rejected; the reasons go to standard error, exit code 1. */
export class RefusedError extends Error {
  override readonly name = 'RefusedError';
}

export const USAGE = `Usage: npm run wm -- <verb> [options]

  demo                       create the demo companies, their ledgers and budgets
  import                     --accounts FILE --ledger FILE --company NAME
                             (a new company: also --currency USD --year-starts 4 [--adjustment-period])
  budget create              --year 2027 --from 2026 --change 3% --name NAME
                             [--change-revenue 5% --change-costOfSales 2% ...] [--round-to 100] [--approve]
                             a year in progress: --projected (remaining months from the approved budget),
                             --annualize (posted months, annualized), or --unposted-as-zero
                             [--exclude-nonrecurring] excludes disposals, insurance recoveries and items described as nonrecurring
  budget list
  budget export              --budget NAME --file FILE.csv|FILE.xlsx [--year 2028]
  budget import              --budget NAME --file FILE.csv|FILE.xlsx [--year 2028] [--apply]
                             lists the changes in the file; --apply makes them
  balance-plan               --budget NAME [--year 2028]
                             planned cash at month end, and the method of every balance (--format json)
  statistics                 --file F [--accept-new]
                             --accept-new accepts dimensions and values that the ledger does not have
  statement VIEW             --as-of 2026-10 [--budget NAME] [--department NAME|none] [--decimals 2]
                             views: income (with --columns review|trend|months), outlook, vertical, expense-shares, departments, customers, trend,
                             trend-quarters, trend-years, five-years, balance, balance-vertical, balance-months, cash-flow, activity, ratios
  years open                 --year 2029
                             adds the fiscal year after the last or before the first one
  trial-balance              --from 2026-04 --to 2026-06 | --range "Q1 FY2027" | --as-of 2026-10
                             [--compare prior-year|budget] [--department NAME|none] [--zero] [--inactive] [--drafts]
  account-detail             [--accounts 6000-6999] [--class NAME] [--find TEXT] [--idle], and months as for trial-balance
  journals                   [--journal NAME] [--detail], and months as for trial-balance
  activity                   --kind customers|vendors, and months as for trial-balance
  aging                      --kind receivables|payables [--as-of 2026-11-09] [--by due|document] [--days 30 | --months 1]
                             [--buckets 3] [--detail] [--percents "2, 4, 10, 20, 40"]
  entries                    [--accounts 6000-6999] [--from 2026-08] [--to 2026-10] [--find TEXT] [--department NAME|none]
                             [--least 1000] [--most 5000]
  reclassify                 the lines that entries lists with the same options, [--to-account 6220]
                             [--to-department NAME|none] [--to-date 2026-10-20] [--apply --reason TEXT]
                             lists what it does to accounts and statements; --apply makes the change
  correct                    --entry PU-000123 [--amount 2214.30] [--date 2026-07-29] [--line 1 --to-account 6130]
                             [--post-in 2026-11-01] [--apply --reason TEXT]; --apply makes the correction
  periods list
  periods close              --period 2026-09 [--earlier] [--soft]
  periods open               --period 2026-09 --reason TEXT
  periods actual             [--period 2026-10]: the last month of actuals; without --period the proposed one
  findings                   [--as-of 2026-10] [--compare budget|prior-year|prior-month|projection]
                             variances exceeding the materiality thresholds, each with the sentence that explains it
  explain                    --line KEY [--view income] [--column KEY | --compare budget|prior-year|prior-month|projection]
                             [--as-of 2026-10] [--by account|department|party|month|source|entry]
                             why two amounts differ; without --column the month against the comparison
  postings check             [--from 2026-08] [--to 2026-10]
                             unusual postings, ranked, each with its reason
  tie-outs                   [--as-of 2026-10]
                             pairs of figures that must agree (exit code 1 and their difference where one does not)
  reconcile                  [--account 1010] [--as-of 2026-10-31] [--file STATEMENT] [--apply]
                             a cash account against its bank; --file imports a statement (CSV, OFX, camt.053) first, --apply
                             clears what a reference, a name or words prove (exit code 1 while it is not reconciled)
  pack list                  [--as-of 2026-10]
  pack preview               --pack monthly-review [--as-of 2026-10] [--department NAME] [--file OUT.pdf|.docx|.xlsx|.html]
                             its sections with their pages, and what wants a look before it is issued
  pack issue                 --pack monthly-review [--as-of 2026-10] [--anyway]; with open items on its checklist only with --anyway
                             freezes figures, pages and files; a reissue says how much changed
  pack send                  --pack monthly-review [--as-of 2026-10] --to ann@company.com,bo@company.com
                             [--attach pdf,docx,xlsx,html] [--subject TEXT]
                             mails the latest issue; without SMTP_URL it is kept in the outbox
  outbox                     messages that were sent, wait, failed, or are kept
  schedules list
  schedules run              --until 2026-12-31 [--from 2026-01-01]
                             runs what is due up to a day, in order, each time once; --from for a trial of a time gone by
  run-companies              --pack monthly-review --as-of 2026-10 [--companies "NAME, NAME"] [--only-clear] [--file OUT.zip]
                             [--to ann@company.com,bo@company.com] [--attach pdf,docx,xlsx,html] [--subject TEXT]
                             issues a pack for every company, or those named; what fails at one does not stop the others
                             (exit code 1 and the reasons where one failed); --only-clear leaves out those with a check
  search --find TEXT         [--as-of 2026-10]
                             views, accounts, entries, budgets, findings, months and pages that a text can mean
  audit list                 [--from 2026-10-01] [--to 2026-10-31] [--area ledger|budgets|views|settings] [--find TEXT]
  audit verify               checks that no event on record was changed, removed or inserted
                             (exit code 1 and the event named otherwise)

Every verb takes --data DIR (default: demo-data), --company NAME (default: the only or first one),
and --format table|csv|json (default: table).
Exit code: 0 done, 1 the input was rejected (reasons on standard error), 2 wrong usage.
`;
