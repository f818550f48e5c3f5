/** Why an amount may not happen again. */
export type NonrecurringReason =
  | { readonly code: 'disposal' }
  | { readonly code: 'insurance' }
  /** its text names what does not happen each year */
  | { readonly code: 'named'; readonly word: string }
  | { readonly code: 'newAccount' }
  /** other income or expense with amounts in this many months of the year */
  | { readonly code: 'otherIncome'; readonly months: number }
  | { readonly code: 'newParty'; readonly party: string };
