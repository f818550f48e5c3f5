import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { recentPlaces } from '../data/recent-places.ts';
import { useViews } from '../data/use-views.ts';

const MOST = 6;

/** Statements that were opened last, and those with a star. */
export function RecentViews() {
  const company = useCompany();
  const views = useViews(company.id);
  const names = new Map(views.data?.map(({ key, name }) => [key, name]));
  const recent = recentPlaces(company.id).filter(({ kind, key }) => kind === 'view' && names.has(key));
  const starred = views.data?.filter((view) => view.starred) ?? [];
  return (
    <p className="text-ink-soft">
      <Links title="Recently viewed" views={recent.slice(0, MOST)} none="No statement was opened yet." />
      {starred.length > 0 ? (
        <>
          {' '}
          <Links title="Starred" views={starred} none="" />
        </>
      ) : null}
    </p>
  );
}

function Links({
  title,
  views,
  none,
}: {
  readonly title: string;
  readonly views: readonly { readonly key: string; readonly name: string }[];
  readonly none: string;
}) {
  const company = useCompany();
  if (views.length === 0) return none;
  return (
    <>
      {title}:{' '}
      {views.map(({ key, name }, at) => (
        <span key={key}>
          {at > 0 ? ', ' : ''}
          <Link className="link" to={`/c/${company.id}/statements/${key}`}>
            {name}
          </Link>
        </span>
      ))}
      .
    </>
  );
}
