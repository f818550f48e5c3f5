import { isRouteErrorResponse, Link, useRouteError } from 'react-router';

import { Empty, Failure } from '../ui/states.tsx';

/** An address that leads nowhere, with the way back. */
export function NoSuchPage() {
  return (
    <main className="flex min-h-dvh">
      <h1 className="sr-only">Page not found</h1>
      <Empty
        title="There is no page at this address"
        action={
          <Link className="button" to="/">
            Go to the overview
          </Link>
        }
      >
        The address may be misspelled, or what it led to was removed.
      </Empty>
    </main>
  );
}

/** A page that failed while it was drawn, with a way to load it again. */
export function RouteFailure() {
  const error = useRouteError();
  if (isRouteErrorResponse(error) && error.status === 404) return <NoSuchPage />;
  return (
    <main>
      <h1 className="sr-only">Page error</h1>
      <Failure error={error} retry={() => window.location.reload()} />
    </main>
  );
}
