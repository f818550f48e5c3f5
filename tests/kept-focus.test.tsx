import { cleanup, render, screen, waitFor } from '@testing-library/react';
import { useRef, useState } from 'react';
import { afterEach, describe, expect, it } from 'vitest';

import { useKeptFocus } from '../apps/web/src/shell/use-kept-focus.ts';

type Stage = 'whole' | 'withoutButton' | 'withoutRegion' | 'placed';

/** A page whose button, or the region around it, goes away at a click. */
function Example({ to }: { readonly to: Stage }) {
  const page = useRef<HTMLElement>(null);
  const [stage, setStage] = useState<Stage>('whole');
  useKeptFocus(page);
  return (
    <main ref={page} tabIndex={-1}>
      {stage === 'withoutRegion' ? null : (
        <div role="region" aria-label="Around" tabIndex={0}>
          <p>
            {stage === 'whole' ? (
              <button type="button" onClick={() => setStage(to)}>
                Go
              </button>
            ) : null}
            {stage === 'placed' ? <input aria-label="New" ref={(field) => field?.focus()} /> : null}
          </p>
        </div>
      )}
    </main>
  );
}

const goTo = (to: Stage): void => {
  render(<Example to={to} />);
  const button = screen.getByRole('button', { name: 'Go' });
  button.focus();
  button.click();
};

afterEach(cleanup);

describe('focus of what goes away', () => {
  it('passes to the nearest surroundings that take it', async () => {
    goTo('withoutButton');
    await waitFor(() => expect(screen.queryByRole('button')).toBeNull());
    await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('region', { name: 'Around' })));
  });

  it('passes to the page when its surroundings go too', async () => {
    goTo('withoutRegion');
    await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('main')));
  });

  it('stays where something has placed it meanwhile', async () => {
    goTo('placed');
    const field = await screen.findByRole('textbox', { name: 'New' });
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(document.activeElement).toBe(field);
  });

  it('is left alone when nothing had it', async () => {
    render(<Example to="withoutRegion" />);
    screen.getByRole('button', { name: 'Go' }).click();
    await waitFor(() => expect(screen.queryByRole('region')).toBeNull());
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(document.activeElement).toBe(document.body);
  });
});
