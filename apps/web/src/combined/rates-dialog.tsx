import { useId, useState } from 'react';

import { useExchangeRates } from '../data/use-combined.ts';
import { DialogFrame } from '../ui/dialog-frame.tsx';
import { Failure, Loading } from '../ui/states.tsx';

/** The rates from each other currency of a group, a table that can be pasted from a spreadsheet. */
export function RatesDialog({ from, to, close }: { readonly from: readonly string[]; readonly to: string; readonly close: () => void }) {
  return (
    <DialogFrame title={`Exchange rates to ${to}`} width="small" close={close}>
      <p className="mt-1 text-[13px] text-ink-soft">
        Income and expenses are translated at the average rate of their month, balances at the closing rate. A budget of later months takes
        the latest rates.
      </p>
      {from.map((code) => (
        <Rates key={code} from={code} to={to} close={close} isOnly={from.length === 1} />
      ))}
    </DialogFrame>
  );
}

function Rates({
  from,
  to,
  close,
  isOnly,
}: {
  readonly from: string;
  readonly to: string;
  readonly close: () => void;
  readonly isOnly: boolean;
}) {
  const rates = useExchangeRates(from, to);
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const stored = (rates.data?.rates ?? []).map(({ month, average, closing }) => `${month}\t${average}\t${closing}`).join('\n');
  if (rates.isError) return <Failure error={rates.error} retry={() => void rates.refetch()} />;
  if (rates.isPending) return <Loading what="the rates" />;
  return (
    <form
      className="mt-3 flex flex-col gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        rates.set.mutate(typed ?? stored, {
          onSuccess: () => {
            setTyped(null);
            if (isOnly) close();
          },
        });
      }}
    >
      <label htmlFor={id}>
        {to} for one {from}: month, average rate, closing rate; one month in each row
      </label>
      <textarea
        id={id}
        className="field figure min-h-48 text-left! font-mono text-[13px]"
        value={typed ?? stored}
        placeholder={'2026-09\t1.0842\t1.0911\n2026-10\t1.0875\t1.0860'}
        onChange={(event) => setTyped(event.target.value)}
      />
      {rates.set.isError ? <Failure error={rates.set.error} /> : null}
      <div className="flex justify-end gap-3">
        <button type="button" className="button" onClick={close}>
          Cancel
        </button>
        <button type="submit" className="button button-primary" disabled={rates.set.isPending || typed === null}>
          Save rates
        </button>
      </div>
    </form>
  );
}
