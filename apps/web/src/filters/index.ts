export { AccountsField } from './accounts-field.tsx';
export { DimensionField } from './dimension-field.tsx';
export { dimensionName } from './dimension-name.ts';
