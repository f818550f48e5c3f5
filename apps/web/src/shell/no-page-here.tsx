import type { ReactNode } from 'react';
import { Link, useParams } from 'react-router';

import { useCompany } from '../data/company.ts';
import { Page } from '../ui/page.tsx';
import { Empty } from '../ui/states.tsx';

/** What stands on a page of a company where its address leads nowhere. */
export function NothingHere() {
  const company = useCompany();
  return (
    <Empty
      title="There is no page at this address"
      action={
        <Link className="button" to={`/c/${company.id}`}>
          Go to the overview
        </Link>
      }
    >
      The address may be misspelled, or what it led to was removed.
    </Empty>
  );
}

/** An address within a company that leads nowhere. */
export function NoPageHere() {
  return (
    <Page title="Page not found">
      <NothingHere />
    </Page>
  );
}

/** A page that is found by a number in its address; another text there leads nowhere. */
export function Numbered({
  part,
  otherwise,
  children,
}: {
  readonly part: string;
  readonly otherwise: ReactNode;
  readonly children: ReactNode;
}) {
  return /^\d+$/.test(useParams()[part] ?? '') ? children : otherwise;
}
