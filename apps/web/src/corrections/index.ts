export { AccountInput } from './account-input.tsx';
export { CorrectionDialog } from './correction-dialog.tsx';
export { NewEntryDialog } from './new-entry-dialog.tsx';
export { DraftActions } from './draft-actions.tsx';
export { EntryHistory } from './entry-history.tsx';
export { ReversalDialog } from './reversal-dialog.tsx';
export { ReclassificationDialog } from './reclassification-dialog.tsx';
