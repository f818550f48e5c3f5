import type { FindingDto } from '@wise-margin/contract';
import type { Comparison } from '@wise-margin/core';
import { figureText } from '@wise-margin/presentation';
import { Link } from 'react-router';

import { useCompany } from '../data/company.ts';
import { placeKey, placeOf, useFindingChanges, useFindingRecord, useFindings } from '../data/use-findings.ts';
import { Failure, Loading } from '../ui/states.tsx';
import { useKeptText } from '../ui/use-kept-text.ts';

/** The comments of the findings of a section, edited on the page where they print. */
export function FindingComments({
  asOf,
  comparison,
  close,
}: {
  readonly asOf: string;
  readonly comparison: Comparison;
  readonly close: () => void;
}) {
  const company = useCompany();
  const findings = useFindings(company.id, { asOf, comparison });
  return (
    <section aria-label="Comments of the findings" className="border border-copper bg-sheet p-3 text-[14px] shadow-lg">
      {findings.isError ? <Failure error={findings.error} retry={() => void findings.refetch()} /> : null}
      {findings.isPending ? <Loading what="the findings" /> : null}
      {findings.data?.findings.length === 0 ? <p className="text-ink-soft">No variance exceeds its threshold.</p> : null}
      <ul className="flex max-h-[60dvh] flex-col gap-3 overflow-y-auto">
        {findings.data?.findings.map((finding) => (
          <Comment key={`${finding.line} ${finding.month}`} finding={finding} comparison={comparison} />
        ))}
      </ul>
      <div className="mt-2 flex items-center gap-3">
        <button type="button" className="button" onClick={close}>
          Done
        </button>
        <span className="flex-1 text-[13px] text-ink-soft">Text in braces follows the ledger.</span>
        <Link className="link text-[13px]" to={`/c/${company.id}/findings/variances?asOf=${asOf}&comparison=${comparison}`}>
          Open Findings
        </Link>
      </div>
    </section>
  );
}

function Comment({ finding, comparison }: { readonly finding: FindingDto; readonly comparison: Comparison }) {
  const company = useCompany();
  const place = placeOf(finding, comparison);
  const record = useFindingRecord(company.id, place);
  const { change } = useFindingChanges(company.id, place);
  const [typed, setTyped] = useKeptText(`pack comment ${company.id} ${placeKey(place)}`);
  const stored = record.data?.comment?.template ?? '';
  const save = () => {
    const comment = (typed ?? stored).trim();
    if (!record.data || comment === stored) return;
    const isFirst = stored === '' && record.data.status === 'open';
    change.mutateAsync({ comment, ...(isFirst ? { status: 'explained' as const } : {}) }).then(
      () => setTyped(null),
      // what was written stays, and the comment says why
      () => undefined,
    );
  };
  return (
    <li>
      <label>
        <span className="font-semibold">
          {finding.name}, {finding.monthName}
        </span>{' '}
        <span className="text-[13px] text-ink-soft">
          variance {figureText({ kind: 'amount', value: finding.spans[0]!.variance }, { exponent: company.exponent, unit: 'dollars' })}{' '}
          {finding.favor ?? ''}
        </span>
        <textarea
          className="field mt-0.5 min-h-14 w-full text-[14px]"
          disabled={!record.data}
          placeholder="No comment yet"
          value={typed ?? stored}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={save}
        />
      </label>
      <span role="status" className="text-[12px] text-ink-soft">
        {change.isPending ? 'Saving…' : change.isSuccess && typed === null ? 'Saved' : ''}
      </span>
      {record.isError ? <Failure error={record.error} /> : null}
      {change.isError ? (
        <p role="alert" className="text-[13px] text-brick">
          {change.error.message}
        </p>
      ) : null}
    </li>
  );
}
