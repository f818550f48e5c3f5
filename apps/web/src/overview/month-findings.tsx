import type { FindingDto } from '@wise-margin/contract';
import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { placeOf, useExplanation, useFindings } from '../data/use-findings.ts';
import { LiveText } from '../findings/index.ts';
import { Amount, favorColor } from '../ui/figure.tsx';
import { Failure, Loading } from '../ui/states.tsx';

const MOST = 5;

/** The five findings with the largest effect on operating income that wait for an answer, each with what explains it. */
export function MonthFindings({ asOf }: { readonly asOf: string }) {
  const company = useCompany();
  const findings = useFindings(company.id, { asOf, comparison: 'budget' });
  const all =
    findings.data?.findings.filter(({ status, notReversed }) => notReversed || status === 'open' || status === 'needsCorrection') ?? [];
  return (
    <section className="border border-hairline bg-sheet p-4" aria-label="Open findings">
      <h2 className="flex items-baseline justify-between border-b border-ink-soft pb-1 font-serif text-lg font-semibold">
        Open findings
        <Link className="link font-sans text-[13px] font-normal" to={`/c/${company.id}/findings/variances?asOf=${asOf}`}>
          All {findings.data ? findings.data.count.toLocaleString('en-US') : ''}
        </Link>
      </h2>
      <p className="text-[12.5px] text-ink-soft">Effect on income, {company.currencyWords}</p>
      {findings.isPending ? <Loading what="the findings" /> : null}
      {findings.isError ? <Failure error={findings.error} retry={() => void findings.refetch()} /> : null}
      {findings.data && all.length === 0 ? (
        <p className="py-1 text-[14px] text-ink-soft">{findings.data.missing ?? 'No variance that exceeds its threshold is open.'}</p>
      ) : null}
      <ul>
        {all.slice(0, MOST).map((finding) => (
          <Finding key={`${finding.line} ${finding.month}`} finding={finding} asOf={asOf} />
        ))}
      </ul>
    </section>
  );
}

function Finding({ finding, asOf }: { readonly finding: FindingDto; readonly asOf: string }) {
  const company = useCompany();
  const place = placeOf(finding, 'budget');
  const explanation = useExplanation(company.id, place);
  // the sign of what it does to income, as in the bridge beside it; below operating income that is the variance's own effect
  const { variance, effect } = finding.spans[0]!;
  const onIncome = effect === 0 ? (finding.favor === 'U' ? -1 : 1) * Math.abs(variance) : effect;
  const sentence = explanation.data?.causes[0]?.sentence ?? explanation.data?.proposal;
  const address = new URLSearchParams({ asOf, line: place.line, month: place.month, span: place.span }).toString();
  return (
    <li className="border-b border-hairline py-1">
      <Link
        className="flex items-baseline justify-between gap-3 text-[14px] hover:underline"
        to={`/c/${company.id}/findings/variances?${address}`}
      >
        <span className="min-w-0 truncate font-semibold">{finding.name}</span>
        <span className={`tabular-nums ${favorColor(finding.favor)}`}>
          <Amount value={onIncome} exponent={company.exponent} unit="dollars" /> {finding.favor ?? ''}
        </span>
      </Link>
      <p className="line-clamp-1 min-h-[18px] text-[12.5px] text-ink-soft">{sentence ? <LiveText text={sentence} /> : ''}</p>
    </li>
  );
}
