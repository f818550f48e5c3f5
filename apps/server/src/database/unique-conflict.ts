/** What two people may add at the same moment, by its table. */
const WORDS: Readonly<Record<string, string>> = {
  budgets: 'A budget of that year with this name was added at the same moment. Choose another name.',
  entries: 'An entry with the same number was posted meanwhile. Check again, and use another number where it is not the same entry.',
  accounts: 'An account with this number was added at the same moment. Look at the chart of accounts, then try again.',
  views: 'A view with this name was saved at the same moment. Choose another name.',
  companies: 'A company with this name was added at the same moment. Choose another name.',
  company_groups: 'A group with this name was added at the same moment. Choose another name.',
  entry_templates: 'A template with this name was saved at the same moment. Choose another name.',
  entry_filters: 'A saved filter with this name was added at the same moment. Choose another name.',
  mail_lists: 'A mailing list with this name was added at the same moment. Choose another name.',
  packs: 'A pack with this name was saved at the same moment. Choose another name.',
  pack_issues: 'This pack was issued by someone else at the same moment. Look at that issue first.',
  fiscal_years: 'This fiscal year was added at the same moment.',
  cleared_lines: 'One of these lines was cleared at the same moment. Reload the reconciliation.',
  holidays: 'This holiday was added at the same moment.',
};
const OTHERWISE = 'Someone else added the same at this moment. Reload the page, then try again.';

/** In words, what failed because the same was added at that moment; null for any other failure. Nothing was changed. */
export function uniqueConflict(error: unknown): string | null {
  for (let cause: unknown = error; cause instanceof Error; cause = (cause as { parent?: unknown }).parent ?? cause.cause) {
    const table = /UNIQUE constraint failed: (\w+)\./.exec(cause.message)?.[1];
    if (table !== undefined) return WORDS[table] ?? OTHERWISE;
  }
  return null;
}
