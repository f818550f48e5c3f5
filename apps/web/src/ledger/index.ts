export { ImportForm } from './import-form.tsx';
export { ImportNeeds } from './import-needs.tsx';
