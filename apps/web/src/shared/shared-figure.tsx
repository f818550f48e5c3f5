import { useSharedFigure } from '../data/use-shares.ts';
import { DrillDownPanel } from '../drill-down/index.ts';
import { Amount } from '../ui/figure.tsx';
import { Failure, Loading } from '../ui/states.tsx';

/** The accounts behind a figure of a shared pack, as the ledger has them now. */
export function SharedFigure({
  token,
  place,
  close,
}: {
  readonly token: string;
  readonly place: { readonly slice: string; readonly section: string; readonly line: string; readonly column: string };
  readonly close: () => void;
}) {
  const figure = useSharedFigure(token, place);
  const { data } = figure;
  return (
    <DrillDownPanel crumbs={data?.heading ?? ''} title={data ? `${data.line} ${data.text}` : 'Accounts'} close={close}>
      {figure.isError ? <Failure error={figure.error} /> : null}
      {figure.isPending ? <Loading what="the accounts" /> : null}
      {data ? (
        <>
          {data.agrees ? null : (
            <p className="mb-2 border-l-2 border-copper bg-wash px-2 py-1 text-[13px]">
              The ledger was corrected after this pack was issued. These are the accounts as they are now.
            </p>
          )}
          <table className="ledger-table w-full" aria-label="Accounts">
            <thead>
              <tr>
                <th scope="col" className="border-b border-ink">
                  Account
                </th>
                <th scope="col" className="border-b border-ink text-right!">
                  Amount
                </th>
              </tr>
            </thead>
            <tbody>
              {data.accounts.map(({ name, amount }) => (
                <tr key={name}>
                  <td className="border-b border-hairline whitespace-normal!">{name}</td>
                  <td className="figure border-b border-hairline">
                    <Amount value={amount} exponent={data.exponent} unit="cents" />
                  </td>
                </tr>
              ))}
              <tr className="font-semibold">
                <td>Total</td>
                <td className="figure">
                  <Amount value={data.sum} exponent={data.exponent} unit="cents" />
                </td>
              </tr>
            </tbody>
          </table>
        </>
      ) : null}
    </DrillDownPanel>
  );
}
