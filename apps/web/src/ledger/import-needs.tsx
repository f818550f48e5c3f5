/** What the two import files hold, for whoever prepares them. */
export function ImportNeeds() {
  return (
    <section>
      <h2 className="border-b border-ink-soft pb-1 font-serif text-[17px] font-semibold">What an import needs</h2>
      <ul className="mt-2 flex list-disc flex-col gap-1.5 pl-5 text-[14px]">
        <li>
          <strong>Accounts:</strong> one row per account with its number, name and class, such as Cash, Revenue or Operating expenses.
        </li>
        <li>
          <strong>Ledger:</strong> one row per entry line with entry number, date, account, and debit or credit. Every entry must balance.
        </li>
        <li>Dates as 2026-10-31 and amounts as 1250.00. Opening balances are an entry on the first day.</li>
        <li>Two or more years give a budget its history; one month is enough for statements.</li>
      </ul>
    </section>
  );
}
