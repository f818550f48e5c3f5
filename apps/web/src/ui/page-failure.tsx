import { Link } from 'react-router';

import { ApiProblem } from '../api/client.ts';
import { Page } from './page.tsx';
import { Failure } from './states.tsx';

const LISTS = { budgets: 'Go to the budgets', packs: 'Go to the packs' } as const;
type Failed = {
  readonly title: string;
  readonly error: unknown;
  readonly retry?: () => void;
  readonly company: number;
  /** the page that lists what this one shows one of */
  readonly list: keyof typeof LISTS;
};

/** A page whose subject could not be loaded or does not exist, with the way to the list of those that do. */
export function PageFailure({ title, error, retry, company, list }: Failed) {
  const isAbsent = error instanceof ApiProblem && error.problem.status === 404;
  return (
    <Page title={title}>
      {/* aligned with the heading: a failure has a margin of its own, for use within a page */}
      <div className="-ml-4">
        <Failure error={error} {...(retry && !isAbsent ? { retry } : {})} />
        <Link className="button mx-4" to={`/c/${company}/${list}`}>
          {LISTS[list]}
        </Link>
      </div>
    </Page>
  );
}
