import { afterAll } from 'vitest';

import { closePage } from './page.tsx';

// files share a process: none finds another's page, globals, or edits that a page of another server still held
afterAll(() => {
  closePage();
  localStorage.clear();
  sessionStorage.clear();
});
