import type { ReactNode } from 'react';
import { useParams } from 'react-router';

import { useCompany } from '../data/company.ts';
import { Page } from '../ui/page.tsx';
import { NothingHere } from './nothing-here.tsx';

/** An address within a page of a company that does not exist. */
export function NoPartHere() {
  return <NothingHere overview={`/c/${useCompany().id}`} />;
}

/** An address within a company that does not exist. */
export function NoPageHere() {
  return (
    <Page title="Page not found">
      <NoPartHere />
    </Page>
  );
}

/** A page whose address holds a number, such as a budget's; any other text there is an address that does not exist. */
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
