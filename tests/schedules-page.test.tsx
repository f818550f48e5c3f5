import { fireEvent, waitFor, within } from '@testing-library/react';
import type { ScheduleChange, ScheduleListDto } from '@wise-margin/contract';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';

import { demoServer } from './support/demo-company.ts';
import { type Between, closePage, failed, openPage } from './support/page.tsx';
import type { TestServer } from './support/server.ts';

const AT = '/companies/1/schedules';
const SCHEDULE: ScheduleChange = {
  name: 'Bank pack',
  what: { kind: 'view', view: 'income' },
  of: 'monthBefore',
  day: { kind: 'businessDay', number: 4 },
  minutes: 450,
  zone: 'America/New_York',
  condition: { kind: 'always' },
  to: ['ines@example.com'],
  lists: [],
  subject: '{name}, {month}',
  text: 'Attached.',
  formats: ['pdf'],
  isHeld: false,
};
let server: TestServer;
beforeAll(async () => {
  server = await demoServer();
});
beforeEach(async () => {
  for (const { id } of await list()) await server.send('DELETE', `${AT}/${id}`);
});
afterEach(closePage);
afterAll(() => server.close());

const list = async () => (await server.get<ScheduleListDto>(AT)).schedules;
const failing: Between = (method, path) =>
  method !== 'GET' && path.startsWith(AT) ? failed(409, 'Another server is running this schedule.') : undefined;
const open = async (between?: Between) => {
  expect((await server.send('POST', AT, SCHEDULE)).status).toBe(201);
  const page = openPage(server, '/c/1/packs/schedules?asOf=2026-10', between);
  return within(await page.findByRole('region', { name: 'Bank pack' }));
};

describe('a schedule', () => {
  it('names its next runs in its own time zone, whoever reads them', async () => {
    const section = await open();
    // the fourth business day after November 9, 2026, the clock of this server
    expect(section.getByText(/^Next: Dec 4, 2026, 7:30\sAM EST; Jan \d+, 2027, 7:30\sAM EST; Feb 4, 2027, 7:30\sAM EST\.$/)).toBeTruthy();
  });

  it('is deleted after a question, and kept when that is canceled', async () => {
    const section = await open();
    fireEvent.click(section.getByRole('button', { name: 'Delete' }));
    expect(section.getByText('Bank pack will mail nothing more. What it mailed stays in the outbox.')).toBeTruthy();
    fireEvent.click(section.getByRole('button', { name: 'Cancel' }));
    expect([section.queryByRole('alertdialog'), (await list()).length]).toEqual([null, 1]);
    fireEvent.click(section.getByRole('button', { name: 'Delete' }));
    fireEvent.click(section.getByRole('button', { name: 'Delete schedule' }));
    await waitFor(async () => expect(await list()).toEqual([]));
  });

  it('says on itself why it was not run or not deleted', async () => {
    const section = await open(failing);
    fireEvent.click(section.getByRole('button', { name: 'Run now' }));
    expect(await section.findByText('Another server is running this schedule.')).toBeTruthy();
    fireEvent.click(section.getByRole('button', { name: 'Delete' }));
    fireEvent.click(section.getByRole('button', { name: 'Delete schedule' }));
    await waitFor(() => expect(section.getAllByText('Another server is running this schedule.')).toHaveLength(2));
    expect(await list()).toHaveLength(1);
  });

  it('is held and resumed, and is not run before its changes are saved', async () => {
    const section = await open();
    expect(section.getByText(/^Next: /)).toBeTruthy();
    fireEvent.click(section.getByRole('button', { name: 'Hold' }));
    await waitFor(async () => expect((await list())[0]!.isHeld).toBe(true));
    const page = openPage(server, '/c/1/packs/schedules?asOf=2026-10');
    const held = within(await page.findByRole('region', { name: 'Bank pack' }));
    expect(held.getByText('On hold.')).toBeTruthy();
    fireEvent.change(held.getByRole('textbox', { name: 'Name of the schedule' }), { target: { value: 'Bank letter' } });
    const renamed = within(await page.findByRole('region', { name: 'Bank letter' }));
    expect(renamed.getByRole<HTMLButtonElement>('button', { name: 'Run now' }).disabled).toBe(true);
    fireEvent.click(renamed.getByRole('button', { name: 'Save' }));
    await waitFor(async () => expect((await list())[0]!.name).toBe('Bank letter'));
  });
});
