import type { TestServer } from './server.ts';

/** A pack of one statement, quick to issue; its key is `pack-1`. */
export async function makeTinyPack(server: TestServer, scope: 'company' | 'all' = 'company'): Promise<void> {
  const statement = { kind: 'statement', view: 'income', comparison: 'priorYear', filter: {}, display: {}, open: [] };
  const usual = { date: { kind: 'month' }, hidden: false, condition: { kind: 'always' }, orientation: 'auto', startsPage: true };
  const sections = [{ id: 'income', title: 'Income statement', ...usual, ...statement }];
  const pack = { name: 'Bank letter', note: '', splitBy: null, scope, sections };
  const { status, body } = await server.send('POST', '/companies/1/packs', pack);
  if (status !== 201 || (body as { key: string }).key !== 'pack-1') throw new Error(JSON.stringify(body));
}
