import type { BasisIssue } from '@wise-margin/core';

/** What a basis lacks, and what to do about it. */
export function basisIssueWords(issue: BasisIssue, month: (index: number) => string): string {
  switch (issue.code) {
    case 'noHistory':
      return `Nothing is posted in ${issue.years.map((year) => `FY${year}`).join(', ')}. Choose years with history, or enter the amounts.`;
    case 'partOfYear':
      return `FY${issue.year} has ${issue.months} of its 12 months; the others count as zero. Use the latest months, annualized, instead.`;
    case 'tooFewMonths':
      return issue.held === 0
        ? 'Nothing is posted yet. Enter the amounts.'
        : `Only ${issue.held} of these months have an amount. The average uses those.`;
    case 'fewWholeYears':
      return `A trend of years needs two full years; ${issue.whole.length === 0 ? 'none of these is' : `only FY${issue.whole[0]} is`}. Use more years, or the trend of the months.`;
    case 'noDriver':
      return `${issue.series} has no value in ${issue.months.map(month).join(', ')}; these months are zero. Import the statistic, or enter the numbers.`;
    case 'noLine':
      return `The budget has no line in ${issue.accounts}. Enter accounts like 4000-4199, 4300.`;
    case 'zeroLine':
      return `The lines of ${issue.accounts} are zero in every month, so this line is zero too. Budget them first, or enter the amounts.`;
    case 'noShape':
      return `No line of ${issue.accounts} has an amount, so the total is spread evenly. Budget them, or choose another spread.`;
    case 'noSlice':
      return `The account has no line for ${issue.slices.join(', ')}. Enter weights for ${issue.known.join(', ')}.`;
    case 'noWeights':
      return issue.by === 'history'
        ? 'The account has no history in any of its lines, so they share equally. Use weights instead.'
        : 'No line has a weight above zero, so they share equally. Enter weights such as Shop 1; Tours 3.';
    case 'notANumber':
      return `"${issue.text}" is not a number. Enter one such as 12.5.`;
  }
}
