export { useTrailAddress } from './drill-down-address.ts';
export type { TrailAddress } from './drill-down-address.ts';
export { Proof, TrailPanel } from './drill-down-panel.tsx';
export { StepTrail } from './drill-down-steps.tsx';
export { FigureStep, figureProof } from './figure-step.tsx';
