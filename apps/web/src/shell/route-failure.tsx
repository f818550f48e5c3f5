import { isRouteErrorResponse, useRouteError } from 'react-router';

import { Failure } from '../ui/states.tsx';
import { NothingHere } from './nothing-here.tsx';

/** An address that leads nowhere, with the way back. */
export function NoSuchPage() {
  return (
    <main className="flex min-h-dvh">
      <h1 className="sr-only">Page not found</h1>
      <NothingHere overview="/" />
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
