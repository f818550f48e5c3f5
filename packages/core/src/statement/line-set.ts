import type { Polarity, NaturalSign } from '../chart/account-class.ts';
import type { AccountSelection } from '../chart/selection.ts';
import type { RatioUnit } from './cell.ts';

type LineBase = {
  /** stable name in formulas, addresses and exports; unique in the set */
  readonly key: string;
  readonly name: string;
  readonly polarity?: Polarity;
  readonly emphasis?: 'bold' | 'italic';
  readonly rule?: 'single' | 'double';
  readonly hidden?: boolean;
};

/** One row of a statement. Sections nest; everything else is a leaf. */
export type Line =
  | (LineBase & { readonly kind: 'section'; readonly lines: readonly Line[] })
  /** selected accounts as one line in one sign, openable to them */
  | (LineBase & { readonly kind: 'accounts'; readonly selection: AccountSelection; readonly sign: NaturalSign })
  /** one `accounts` line for each group among the selected accounts, in order of account number */
  | (LineBase & { readonly kind: 'groups'; readonly selection: AccountSelection; readonly sign: NaturalSign })
  /** all accounts of the section it stands in (or of `of`), in `sign` */
  | (LineBase & { readonly kind: 'total'; readonly of: string; readonly sign: NaturalSign })
  | (LineBase & { readonly kind: 'formula'; readonly expression: string; readonly result: 'amount' | RatioUnit })
  | (LineBase & { readonly kind: 'spacer' });

/** The rows of a statement, as data. */
export type LineSet = {
  readonly key: string;
  readonly name: string;
  /** the line that percentages are taken of */
  readonly percentBase: string;
  readonly lines: readonly Line[];
};
