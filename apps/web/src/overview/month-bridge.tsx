import { useNavigate } from 'react-router';

import { useCompany } from '../data/company.ts';
import { useExplanation } from '../data/use-findings.ts';
import { Bridge } from '../findings/index.ts';

/** Operating income of the year to date from budget to actual, by line; nothing where there is no budget. */
export function MonthBridge({ asOf }: { readonly asOf: string }) {
  const company = useCompany();
  const navigate = useNavigate();
  const place = { view: 'income', line: 'operating_income', comparison: 'budget', month: asOf, span: 'yearToDate' } as const;
  const { data } = useExplanation(company.id, place, 'line');
  const layout = data?.layouts.find(({ by }) => by === 'line');
  if (!data || !layout || data.base === 0) return null;
  return (
    <section aria-label="Operating income, budget to actual" className="mt-3">
      <h3 className="border-b border-hairline text-[14px] font-semibold">Operating income for the year to date, budget to actual</h3>
      <Bridge
        explanation={data}
        layout={layout}
        comparison="budget"
        addressOf={(line) => `/c/${company.id}/statements/income?asOf=${asOf}&figure=${line}~ytd.budget_difference`}
        openEntry={(entry) => void navigate(`/c/${company.id}/ledger/entries?entry=${entry}`)}
      />
    </section>
  );
}
