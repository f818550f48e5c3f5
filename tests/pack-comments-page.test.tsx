import { QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import type { CompanyDto, FindingRecordDto, FindingsDto } from '@wise-margin/contract';
import { createMemoryRouter } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';

import { newQueryClient } from '../apps/web/src/api/query-client.ts';
import { CompanyContext } from '../apps/web/src/data/company.ts';
import { FindingComments } from '../apps/web/src/packs/finding-comments.tsx';
import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

const AT = '/companies/1';
const PREVIEW = ['pack-preview', 1];
let server: TestServer;
let company: CompanyDto;
beforeAll(async () => {
  server = await demoServer();
  company = await server.get<CompanyDto>(AT);
});
afterEach(() => {
  closePage();
  sessionStorage.clear();
});
afterAll(() => server.close());

/** What is kept about the first finding; another may be first once it is answered. */
async function firstFinding(): Promise<() => Promise<FindingRecordDto>> {
  const { line, month, spans } = (await server.get<FindingsDto>(`${AT}/findings?asOf=2026-10&comparison=budget`)).findings[0]!;
  const place = `view=income&line=${line}&comparison=budget&month=${month}&span=${spans[0]!.span}`;
  return () => server.get(`${AT}/findings/record?${place}`);
}
/** The panel of comments as it stands on the page of a pack, whose preview is held already; Done takes it away. */
async function open(between?: Between) {
  const record = await firstFinding();
  openPage(server, '/', between);
  cleanup();
  const client = newQueryClient();
  client.setQueryData(PREVIEW, 'pages');
  const drawn = render(
    <QueryClientProvider client={client}>
      <CompanyContext value={company}>
        <RouterProvider
          router={createMemoryRouter([
            { path: '/', element: <FindingComments asOf="2026-10" comparison="budget" close={() => setTimeout(() => drawn.unmount())} /> },
          ])}
        />
      </CompanyContext>
    </QueryClientProvider>,
  );
  const panel = within(await screen.findByRole('region', { name: 'Comments of the findings' }));
  const field = (await panel.findAllByRole<HTMLTextAreaElement>('textbox'))[0]!;
  await waitFor(() => expect(field.disabled).toBe(false));
  /** Types a comment and clicks Done, which takes the cursor out of the field first. */
  const typeAndClose = (text: string) => {
    fireEvent.change(field, { target: { value: text } });
    fireEvent.blur(field);
    fireEvent.click(panel.getByRole('button', { name: 'Done' }));
  };
  return { client, panel, field, typeAndClose, record };
}

/** Texts that are kept while they are written; the month in view is kept as well. */
const keptTexts = () => Object.keys(sessionStorage).filter((key) => !key.startsWith('wm.asOf.'));

describe('the comments of a pack’s findings', () => {
  it('are saved by Done right after they were typed, and the pages are made again with them', async () => {
    const { client, typeAndClose, record } = await open();
    expect(client.getQueryState(PREVIEW)!.isInvalidated).toBe(false);
    typeAndClose('Guides were paid for September.');
    await waitFor(() => expect(screen.queryByRole('region')).toBeNull());
    await waitFor(async () => expect((await record()).comment?.template).toBe('Guides were paid for September.'));
    await waitFor(() => expect(client.getQueryState(PREVIEW)!.isInvalidated).toBe(true));
    expect([(await record()).status, keptTexts()]).toEqual(['explained', []]);
  });

  it('that could not be saved behind a closed panel are there when it is opened again', async () => {
    const { typeAndClose, record } = await open((method) => (method === 'PUT' ? failed(503, 'The server is restarting.') : undefined));
    typeAndClose('Second thought');
    await waitFor(() => expect(screen.queryByRole('region')).toBeNull());
    expect((await record()).comment?.template).not.toBe('Second thought');
    const { panel, field } = await open();
    expect(field.value).toBe('Second thought');
    fireEvent.blur(field);
    await waitFor(async () => expect((await record()).comment?.template).toBe('Second thought'));
    expect(await panel.findByText('Saved')).toBeTruthy();
  });

  it('say at the comment why it was not saved', async () => {
    const { panel, field } = await open((method) => (method === 'PUT' ? failed(503, 'The server is restarting.') : undefined));
    fireEvent.change(field, { target: { value: 'Third thought' } });
    fireEvent.blur(field);
    expect((await panel.findByRole('alert')).textContent).toBe('The server is restarting.');
    expect(field.value).toBe('Third thought');
  });
});
