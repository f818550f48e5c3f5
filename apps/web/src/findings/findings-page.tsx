import { Outlet } from 'react-router';

import { Page } from '../ui/page.tsx';
import { Tabs } from '../ui/tabs.tsx';

const TABS = [
  ['variances', 'Variances'],
  ['postings', 'Posting checks'],
  ['tie-outs', 'Tie-outs'],
  ['limits', 'Materiality'],
] as const;

/** The findings station: what matters, why it happened, and what is done about it. */
export default function FindingsPage() {
  return (
    <Page title="Findings" words="What matters, why it happened, and what is done about it">
      <Tabs label="Findings" tabs={TABS} />
      <Outlet />
    </Page>
  );
}
