import type { Comparison } from '../findings/finding-columns.ts';
import type { FindingSpan } from '../findings/materiality.ts';
import type { DimensionFilter } from '../ledger/dimension.ts';
import type { Display } from '../statements/display.ts';
import type { RichText } from './rich-text.ts';
import type { DateRule } from './section-date.ts';

/** When a section is in the pack. */
export type SectionCondition =
  | { readonly kind: 'always' }
  /** a line of a view has activity in the section's month */
  | { readonly kind: 'activity'; readonly view: string; readonly line: string }
  /** a variance is past its limit */
  | { readonly kind: 'findings' };

export type SectionBase = {
  /** unique within its pack, and kept when the section moves */
  readonly id: string;
  readonly title: string;
  readonly date: DateRule;
  /** left out of the pages, kept in the outline */
  readonly hidden: boolean;
  readonly condition: SectionCondition;
  readonly orientation: 'auto' | 'portrait' | 'landscape';
  /** begins a page of its own */
  readonly startsPage: boolean;
};

/**
 * What a section shows. Packs name views, lines and classes, never accounts of one company, so that every company can
 * use them.
 */
export type SectionContent =
  | {
      readonly kind: 'cover';
      readonly subtitle: string;
      readonly preparedBy: string;
      readonly logo: boolean;
    }
  | { readonly kind: 'contents' }
  /** text of every month, or written anew each month and then kept with the month */
  | { readonly kind: 'text'; readonly written: 'once' | 'monthly'; readonly text: RichText }
  | {
      readonly kind: 'statement';
      readonly view: string;
      /** columns in place of the view's own: month and year to date against a base */
      readonly comparison: Comparison | 'asSaved';
      readonly filter: DimensionFilter;
      readonly display: Partial<Display>;
      /** opened lines, or all */
      readonly open: 'all' | readonly string[];
    }
  /** lines by month beside budget and prior year */
  | { readonly kind: 'charts'; readonly view: string; readonly lines: readonly string[] }
  /** from the base of a line's variance to what is compared with it, by line, account or another layout */
  | {
      readonly kind: 'bridge';
      readonly view: string;
      readonly line: string;
      readonly comparison: Comparison;
      readonly span: FindingSpan;
      readonly by: string;
    }
  | { readonly kind: 'measures'; readonly lines: readonly string[] }
  | { readonly kind: 'findings'; readonly comparison: Comparison; readonly onlyCommented: boolean }
  | { readonly kind: 'budgetChecks' }
  | { readonly kind: 'aging'; readonly of: 'receivables' | 'payables'; readonly detail: boolean }
  | { readonly kind: 'parties'; readonly of: 'customers' | 'vendors'; readonly count: number }
  | { readonly kind: 'trialBalance'; readonly compare: 'none' | 'prior-year' | 'budget' }
  | { readonly kind: 'accountDetail'; readonly accountClass: string }
  /** footnotes of the statements before it */
  | { readonly kind: 'notes' };
export type SectionKind = SectionContent['kind'];
export type Section = SectionBase & SectionContent;

/** A review pack as it is designed once, for every month and company. */
export type Pack = {
  readonly key: string;
  readonly name: string;
  /** what it is for */
  readonly note: string;
  /** one pack for each value of a dimension; null for one of the whole company */
  readonly splitBy: string | null;
  readonly sections: readonly Section[];
};
