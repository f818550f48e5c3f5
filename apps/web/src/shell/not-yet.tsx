import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { Page } from '../ui/page.tsx';
import { Empty } from '../ui/states.tsx';

/** A station that is not built yet: one sentence on what it will hold. */
export function NotYet({ station, sentence }: { readonly station: string; readonly sentence: string }) {
  const company = useCompany();
  return (
    <Page title={station}>
      <Empty
        title={`${station} is not available yet`}
        action={
          <Link className="button" to={`/c/${company.id}/statements/income`}>
            Open the income statement
          </Link>
        }
      >
        {sentence}
      </Empty>
    </Page>
  );
}
