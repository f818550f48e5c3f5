import type { TieOutDto } from '@wise-margin/contract';
import { TIE_OUT_GROUPS } from '@wise-margin/contract';
import { Link } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { useMonthKeys } from '../data/use-month-keys.ts';
import { useTieOuts } from '../data/use-tie-outs.ts';
import { Amount } from '../ui/figure.tsx';
import { Empty, Failure, Loading } from '../ui/states.tsx';

const WHEN = new Intl.DateTimeFormat('en-US', { month: 'short', day: 'numeric', hour: 'numeric', minute: '2-digit' });

/** Pairs of figures that must agree: both, their difference, and a link to where they part. */
export default function TieOutsPage() {
  const [asOf] = useAsOf();
  useMonthKeys();
  if (asOf === null) return <Empty title="No entries yet">Import a ledger on the Ledger page to have its figures tied out.</Empty>;
  return <TieOuts asOf={asOf} />;
}

function TieOuts({ asOf }: { readonly asOf: string }) {
  const company = useCompany();
  const { data, isError, error, isFetching, refetch, again } = useTieOuts(company.id, asOf);
  if (isError) return <Failure error={error} retry={() => void refetch()} />;
  if (!data) return <Loading what="the tie-outs" />;
  const { tieOuts, failing, asOfWords, at } = data;
  const groups = TIE_OUT_GROUPS.map((name) => ({ name, ties: tieOuts.filter(({ group }) => group === name) })).filter(
    ({ ties }) => ties.length > 0,
  );
  return (
    <div className="min-h-0 flex-1 overflow-y-auto pb-4" tabIndex={0} role="region" aria-label="Tie-outs">
      <p className="mb-2 flex flex-wrap items-center gap-x-4 text-[13px]">
        <span role="status" className={failing === 0 ? 'text-ink-soft' : 'font-semibold text-brick'}>
          {failing === 0
            ? `All ${tieOuts.length} pairs agree as of ${asOfWords}.`
            : `${failing} of ${tieOuts.length} ${failing === 1 ? 'pairs does' : 'pairs do'} not agree as of ${asOfWords}.`}
        </span>
        <span className="text-ink-soft">Run {WHEN.format(new Date(at))}, and again after each posting.</span>
        <button type="button" className="link" disabled={isFetching} onClick={() => void again()}>
          Run again
        </button>
      </p>
      {groups.map(({ name, ties }) => (
        <section key={name} aria-label={name} className="mb-4 max-w-[1180px] border border-hairline bg-sheet px-3 py-2">
          <h2 className="font-serif text-lg font-semibold">{name}</h2>
          <table className="ledger-table w-full table-fixed" aria-label={name}>
            <thead>
              <tr className="text-[12.5px]">
                <th scope="col" className="w-[30%]">
                  Pair
                </th>
                <th scope="col" className="w-[24%]">
                  First
                </th>
                <th scope="col" className="w-[24%]">
                  Second
                </th>
                <th scope="col" className="text-right!">
                  Difference
                </th>
                <th scope="col" className="w-[108px] pl-5!">
                  Result
                </th>
              </tr>
            </thead>
            <tbody>
              {ties.map((tie) => (
                <Row key={tie.key} tie={tie} />
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </div>
  );
}

function Row({ tie }: { readonly tie: TieOutDto }) {
  const company = useCompany();
  const side = ({ words, amount }: TieOutDto['first']) => (
    <td className="border-b border-hairline align-top whitespace-normal!">
      <span className="flex justify-between gap-2">
        <span className="min-w-0 text-[12.5px] text-ink-soft">{words}</span>
        <span className="tabular-nums">
          <Amount value={amount} exponent={company.exponent} />
        </span>
      </span>
    </td>
  );
  return (
    <tr className="hover:bg-wash">
      <th scope="row" className="border-b border-hairline align-top font-normal! whitespace-normal!">
        <Link className="link" to={`/c/${company.id}/${tie.link}`}>
          {tie.name}
        </Link>
        {tie.where === '' ? null : <span className="block text-[12.5px] text-brick">{tie.where}</span>}
      </th>
      {side(tie.first)}
      {side(tie.second)}
      <td className="figure border-b border-hairline align-top">
        <Amount value={tie.difference} exponent={company.exponent} />
      </td>
      <td className={`border-b border-hairline pl-5! align-top font-semibold ${tie.agrees ? 'text-pine' : 'text-brick'}`}>
        {tie.agrees ? '✓ Agrees' : '✗ Differs'}
      </td>
    </tr>
  );
}
