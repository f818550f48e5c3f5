import { useRouteError } from 'react-router';
import { Failure } from '../ui/states.tsx';

/** A page that broke while it was drawn: told, with a way to load it anew. */
export function RouteFailure() {
  return (
    <main>
      <h1 className="sr-only">The page failed</h1>
      <Failure error={useRouteError()} retry={() => window.location.reload()} />
    </main>
  );
}
