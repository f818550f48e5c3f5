import type { LineRule } from '@wise-margin/core';

/** Style classes for the rules at a line's amounts; empty where it has none. */
export const ruleClasses = (rule: LineRule | null): string =>
  rule === null
    ? ''
    : ['ruled', rule.above ? `rule-above-${rule.above}` : '', rule.below ? `rule-below-${rule.below}` : ''].filter(Boolean).join(' ');
