import { filterParameters } from '@wise-margin/contract';

/** A filter as the API takes it in a query. */
export const filterText = (filter: Readonly<Record<string, readonly string[]>>): string =>
  new URLSearchParams(filterParameters(filter)).toString();
