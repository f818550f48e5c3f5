export { CorrectionDialog } from './correction-dialog.tsx';
export { EntryHistory } from './entry-history.tsx';
export { ReclassificationDialog } from './reclassification-dialog.tsx';
