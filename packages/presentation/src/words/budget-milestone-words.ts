/**
 * What happened to a budget as a whole, in words.
 * @param action as it is recorded, such as `budget.approved`
 * @param details what was recorded with it
 */
export function budgetMilestoneWords(
  action: string,
  details: Readonly<Record<string, unknown>>,
  nameOf: (budget: number) => string,
): string {
  const number = (key: string): number | null => (typeof details[key] === 'number' ? details[key] : null);
  const text = (key: string): string => (typeof details[key] === 'string' ? details[key] : '');
  switch (action) {
    case 'budget.create': {
      const [copied, year] = [number('copiedFrom'), number('fromYear')];
      if (copied !== null) return `Created as a version of ${nameOf(copied)}`;
      return year === null ? 'Created' : `Created from FY${year}`;
    }
    case 'budget.inReview':
      return 'Submitted for review';
    // as it was recorded before the state was called draft
    case 'budget.working':
    case 'budget.draft':
      return 'Returned to draft';
    case 'budget.approved': {
      const open = number('openFindings') ?? 0;
      return open === 0 ? 'Approved' : `Approved with ${open === 1 ? 'one finding' : `${open} findings`} of the budget checks open`;
    }
    case 'budget.superseded':
      return `Superseded by ${nameOf(number('by') ?? 0)}`;
    case 'budget.answer': {
      const [, account = ''] = text('finding').split(' ');
      return text('text') === '' ? `Budget checks, ${account}: explanation removed` : `Budget checks, ${account}: ${text('text')}`;
    }
    default:
      return text('words') || action.replace(/^budget\./, '');
  }
}
