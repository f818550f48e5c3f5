const SWATCHES = {
  actual: { className: 'bg-ink', words: 'actual' },
  prior: { className: 'bg-prior', words: 'prior year' },
  budget: { className: 'border border-ink bg-sheet', words: 'budget' },
  projection: { className: 'border border-ink hatched', words: 'projection: actual to date and budget after' },
} as const;

/** The 10 px mark of a scenario: actual solid, prior year grey, budget outlined. */
export function ScenarioSwatch({ scenario }: { readonly scenario: keyof typeof SWATCHES }) {
  return (
    <span aria-hidden="true" title={SWATCHES[scenario].words} className={`mr-1.5 inline-block size-2.5 ${SWATCHES[scenario].className}`} />
  );
}
