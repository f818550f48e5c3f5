import type { BasisIssue } from '@wise-margin/core';

/** What a basis lacks, and what to do about it. */
export function basisIssueWords(issue: BasisIssue, month: (index: number) => string): string {
  switch (issue.code) {
    case 'noHistory':
      return `Nothing is posted in ${issue.years.map((year) => `FY${year}`).join(', ')}. Choose years with history, or type the amounts.`;
    case 'partOfYear':
      return `FY${issue.year} has ${issue.months} of its 12 months; the others count as nothing. Take the latest months brought to a year instead.`;
    case 'tooFewMonths':
      return issue.held === 0
        ? 'Nothing is posted yet. Type the amounts.'
        : `Only ${issue.held} of these months have a figure; the mean is of those.`;
    case 'fewWholeYears':
      return `A straight line through years needs two whole ones; ${issue.whole.length === 0 ? 'none of these is' : `only FY${issue.whole[0]} is`}. Take more years, or the line through the months.`;
    case 'noDriver':
      return `${issue.series} has no figure in ${issue.months.map(month).join(', ')}; these months hold nothing. Bring the statistic in, or type the numbers.`;
    case 'noLine':
      return `No line of the budget is among ${issue.accounts}. Write accounts like 4000-4199, 4300.`;
    case 'zeroLine':
      return `The lines of ${issue.accounts} hold nothing in any month, and so does this. Budget them first, or type the amounts.`;
    case 'noShape':
      return `No line of ${issue.accounts} holds anything, so that the total is spread evenly until one does. Budget them, or take another spread.`;
    case 'noSlice':
      return `The account has no line for ${issue.slices.join(', ')}. Write weights for ${issue.known.join(', ')}.`;
    case 'noWeights':
      return issue.by === 'history'
        ? 'The account has no history in any of its lines, so they share equally. Share by weights instead.'
        : 'No line has a weight above zero, so they share equally. Write weights such as Shop 1; Tours 3.';
    case 'notANumber':
      return `"${issue.text}" is no number. Write one such as 12.5.`;
  }
}
