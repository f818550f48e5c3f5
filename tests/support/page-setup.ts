import { afterAll, expect } from 'vitest';

// test files share a process; the first of pages makes the document, before anything they import looks for it
if (expect.getState().testPath?.endsWith('.tsx')) {
  const { closePage } = await import('./page.tsx');
  // no file finds another's page, globals, or edits that a page of another server still held
  afterAll(() => {
    closePage();
    localStorage.clear();
    sessionStorage.clear();
  });
}
