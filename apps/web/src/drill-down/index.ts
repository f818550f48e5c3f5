export { useDrillDownAddress } from './drill-down-address.ts';
export type { DrillDownAddress } from './drill-down-address.ts';
export { Proof, DrillDownPanel } from './drill-down-panel.tsx';
export { DrillDownSteps } from './drill-down-steps.tsx';
export { FigureStep, figureProof, groupsProof } from './figure-step.tsx';
export { FigureGroups, GroupChoice, useFigureGroups } from './figure-groups.tsx';
