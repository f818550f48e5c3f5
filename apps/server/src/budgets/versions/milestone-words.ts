/**
 * What happened to a budget as a whole, in words.
 * @param action as it is recorded, such as `budget.approved`
 * @param details what was recorded with it
 */
export function milestoneWords(action: string, details: Readonly<Record<string, unknown>>, nameOf: (budget: number) => string): string {
  const number = (key: string): number | null => (typeof details[key] === 'number' ? details[key] : null);
  const text = (key: string): string => (typeof details[key] === 'string' ? details[key] : '');
  switch (action) {
    case 'budget.create': {
      const [copied, year] = [number('copiedFrom'), number('fromYear')];
      if (copied !== null) return `Made as a version of ${nameOf(copied)}`;
      return year === null ? 'Made' : `Made from FY${year}`;
    }
    case 'budget.inReview':
      return 'Sent to review';
    case 'budget.working':
      return 'Sent back to work';
    case 'budget.approved': {
      const open = number('openFindings') ?? 0;
      return open === 0 ? 'Approved' : `Approved with ${open === 1 ? 'one finding' : `${open} findings`} of the sanity list open`;
    }
    case 'budget.superseded':
      return `Superseded by ${nameOf(number('by') ?? 0)}`;
    case 'budget.answer': {
      const [, account = ''] = text('finding').split(' ');
      return text('text') === '' ? `Sanity list, ${account}: the answer taken back` : `Sanity list, ${account}: ${text('text')}`;
    }
    default:
      return text('words') || action.replace(/^budget\./, '');
  }
}
