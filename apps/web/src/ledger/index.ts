export { ImportForm } from './import-form.tsx';
