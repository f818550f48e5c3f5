export { REPORT_NAMES } from './report-choices.ts';
