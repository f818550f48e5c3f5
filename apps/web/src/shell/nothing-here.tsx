import { Link } from 'react-router';

import { Empty } from '../ui/states.tsx';

/** What is said of an address that does not exist, with a link to the overview. */
export function NothingHere({ overview }: { readonly overview: string }) {
  return (
    <Empty
      title="There is no page at this address"
      action={
        <Link className="button" to={overview}>
          Go to the overview
        </Link>
      }
    >
      The address may be misspelled, or what it led to was removed.
    </Empty>
  );
}
