import { cleanup, render, screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';

import { ApiProblem } from '../apps/web/src/api/client.ts';
import { Failure } from '../apps/web/src/ui/states.tsx';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('a page while the server is stopped', () => {
  it.each([
    ['a request', new ApiProblem({ type: 'about:blank', title: 'No connection', status: 0, detail: 'x' })],
    ['code that was not loaded yet', new TypeError('Failed to fetch dynamically imported module: http://localhost/assets/a.js')],
  ])('says so in words after %s, and goes on when the server is back', async (_, error) => {
    let isBack = false;
    vi.stubGlobal('fetch', () => (isBack ? Promise.resolve(new Response('[]')) : Promise.reject(new TypeError('away'))));
    const goOn = vi.fn();
    render(<Failure error={error} retry={goOn} />);
    expect(screen.getByRole('alert').textContent).toContain('Wise Margin is not running');
    expect(screen.getByRole('alert').textContent).not.toContain('module');
    isBack = true;
    await waitFor(() => expect(goOn).toHaveBeenCalledTimes(1), { timeout: 5000 });
  });
  it('says any other failure as it is', () => {
    render(<Failure error={new Error('No such month')} />);
    expect(screen.getByRole('alert').textContent).toContain('No such month');
  });
});
