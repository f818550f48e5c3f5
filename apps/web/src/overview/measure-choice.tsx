import { type Measure, MEASURES } from '@wise-margin/contract';

import { useCompany } from '../data/company.ts';
import { MEASURE_NAMES } from '../data/measure-names.ts';
import { useMeasures } from '../data/use-measures.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { CheckField } from '../ui/labeled-field.tsx';

const MOST = 8;

/** Which measures stand on the overview; kept for the person and the company. */
export function MeasureChoice() {
  const company = useCompany();
  const { chosen, choose } = useMeasures(company.id);
  if (chosen === null) return null;
  const toggle = (measure: Measure) =>
    choose.mutate(chosen.includes(measure) ? chosen.filter((each) => each !== measure) : [...chosen, measure].slice(-MOST));
  return (
    <FloatingPanel label="Measures" count={0}>
      <div className="flex flex-col gap-1">
        {MEASURES.map((measure) => (
          <CheckField key={measure} label={MEASURE_NAMES[measure]} checked={chosen.includes(measure)} set={() => toggle(measure)} />
        ))}
      </div>
    </FloatingPanel>
  );
}
