import type { NonrecurringReason } from '@wise-margin/core';

/** Why an amount may not recur, as a sentence without its point. */
export function nonrecurringWords(reason: NonrecurringReason): string {
  switch (reason.code) {
    case 'disposal':
      return 'Gain or loss on disposal';
    case 'insurance':
      return 'Insurance recovery';
    case 'named':
      return `Its description says “${reason.word}”`;
    case 'newAccount':
      return 'The account has no amounts in other years';
    case 'otherIncome':
      return `Other income or expense, posted in ${reason.months === 1 ? 'one month' : `${reason.months} months`} of the year`;
    case 'newParty':
      return `${reason.party} has no amounts in this account in other years`;
  }
}
