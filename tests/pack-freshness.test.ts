import type { PackPreviewDto } from '@wise-margin/contract';
import { shippedPack } from '@wise-margin/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import type { TestServer } from './support/server.ts';

let server: TestServer;
beforeEach(async () => {
  server = await demoServer();
});
afterEach(async () => {
  vi.restoreAllMocks();
  await server.close();
});

const review = shippedPack('monthly-review')!;
const design = { ...review, sections: review.sections.filter(({ kind }) => kind === 'findings') };
const texts = async (company: number): Promise<string> => {
  const { body } = await server.send('POST', `/companies/${company}/pack-preview`, { ...design, month: '2026-10' });
  return (body as PackPreviewDto).pages
    .flatMap(({ marks }) => marks.flatMap((mark) => (mark.kind === 'text' ? [mark.text] : [])))
    .join(' ');
};
const setLimits = (company: number, amount: number, scope: 'all' | 'company') => {
  const limit = { amount, percent: null, passes: 'either', least: 0 };
  return server.send('PUT', `/companies/${company}/materiality`, { month: limit, yearToDate: limit, overrides: [], scope });
};
const NONE = 'No variance exceeds its threshold.';

describe('a section that was filled before', () => {
  it('is filled again when something of its company changes, or what is kept for all companies', async () => {
    expect(await texts(2)).not.toContain(NONE);
    expect((await setLimits(1, 9_000_000_000, 'all')).status).toBe(200);
    expect(await texts(2)).toContain(NONE);
    await setLimits(2, 100, 'company');
    expect(await texts(2)).not.toContain(NONE);
  });

  it('is kept while another company changes', async () => {
    await texts(2);
    const list = vi.spyOn(server.application.findingList, 'list');
    await server.send('PUT', '/companies/1/packs/monthly-review/months/2026-10', { version: 0, state: 'inReview' });
    await texts(2);
    expect(list).not.toHaveBeenCalled();
  });

  it('while the list of packs was read is not filled again by an editor, which sends its fields in another order', async () => {
    const list = vi.spyOn(server.application.findingList, 'list');
    expect((await server.send('POST', '/companies/1/pack-preview/ready', { month: '2026-10' })).status).toBe(204);
    let calls = 0;
    const isFilled = (): void => {
      const before = calls;
      calls = list.mock.calls.length;
      expect(calls > 0 && calls === before).toBe(true);
    };
    await vi.waitFor(isFilled, { interval: 700, timeout: 20_000 });
    expect(await texts(1)).not.toContain(NONE);
    expect(list).toHaveBeenCalledTimes(calls);
  });

  it('by a request from before a change is not shown to those after it', async () => {
    const { findingList } = server.application;
    const list = findingList.list.bind(findingList);
    let goOn = (): void => undefined;
    const gate = new Promise<void>((resolve) => (goOn = resolve));
    vi.spyOn(findingList, 'list').mockImplementationOnce(async (...args) => {
      const before = await list(...args);
      await gate;
      return before;
    });
    const slow = texts(1);
    await vi.waitFor(() => expect(findingList.list).toHaveBeenCalledTimes(1));
    await setLimits(1, 9_000_000_000, 'company');
    goOn();
    expect(await slow).not.toContain(NONE);
    expect(await texts(1)).toContain(NONE);
  });
});
