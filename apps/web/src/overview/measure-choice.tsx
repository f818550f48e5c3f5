import { type Measure, MEASURES } from '@wise-margin/contract';
import { useState } from 'react';

import { useCompany } from '../data/company.ts';
import { MEASURE_NAMES } from '../data/measure-names.ts';
import { useMeasures } from '../data/use-measures.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { CheckField } from '../ui/labeled-field.tsx';
import { Failure } from '../ui/states.tsx';

const MOST = 8;

/** Which measures stand on the overview; kept for the person and the company. */
export function MeasureChoice() {
  const company = useCompany();
  const { chosen, choose } = useMeasures(company.id);
  // what was clicked shows before it is saved
  const [clicked, setClicked] = useState<readonly Measure[] | null>(null);
  const shown = clicked ?? chosen;
  if (shown === null) return null;
  const toggle = (measure: Measure) => {
    const next = shown.includes(measure) ? shown.filter((each) => each !== measure) : [...shown, measure];
    setClicked(next);
    choose.mutate(next, { onError: () => setClicked(null) });
  };
  const isFull = shown.length >= MOST;
  return (
    <FloatingPanel label="Measures" count={0}>
      <div className="flex flex-col gap-1">
        {choose.isError ? <Failure error={choose.error} /> : null}
        {MEASURES.map((measure) => (
          <CheckField
            key={measure}
            label={MEASURE_NAMES[measure]}
            checked={shown.includes(measure)}
            disabled={isFull && !shown.includes(measure)}
            set={() => toggle(measure)}
          />
        ))}
        {isFull ? <p className="text-[13px] text-ink-soft">At most {MOST}. Clear one to choose another.</p> : null}
      </div>
    </FloatingPanel>
  );
}
