import type { MailListDto, SetMailList } from '@wise-margin/contract';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { refused } from '../http/problem.ts';

type Row = { readonly id: number; readonly name: string; readonly addresses: string };

/** Lists of people that mail goes to. */
export class MailLists {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  async list(companyId: number): Promise<MailListDto[]> {
    const rows = await this.#database.select<Row>('SELECT id, name, addresses FROM mail_lists WHERE company_id = $1 ORDER BY name', [
      companyId,
    ]);
    return rows.map(({ id, name, addresses }) => ({ id, name, addresses: JSON.parse(addresses) as string[] }));
  }

  /** Keeps a list under its name; without addresses it is removed. */
  async set(companyId: number, { name, addresses }: SetMailList, actor: Actor): Promise<MailListDto[]> {
    await this.#database.write(async (transaction) => {
      if (addresses.length === 0)
        await this.#database.run('DELETE FROM mail_lists WHERE company_id = $1 AND name = $2', [companyId, name], transaction);
      else
        await this.#database.run(
          'INSERT INTO mail_lists (company_id, name, addresses) VALUES ($1, $2, $3) ON CONFLICT (company_id, name) DO UPDATE SET addresses = excluded.addresses',
          [companyId, name, JSON.stringify([...new Set(addresses)])],
          transaction,
        );
      await recordAudit(this.#database, { companyId, actor, action: 'mail.list', subject: name, details: { addresses } }, transaction);
    });
    return this.list(companyId);
  }

  /** Addresses typed and those of lists, each once whatever its case. @throws ProblemError 422 for an unknown list or no address at all */
  async recipients(
    companyId: number,
    { to, lists }: { readonly to: readonly string[]; readonly lists: readonly string[] },
  ): Promise<string[]> {
    const known = await this.list(companyId);
    const addresses = lists.flatMap((name) => {
      const list = known.find((each) => each.name.toLowerCase() === name.toLowerCase());
      if (!list) throw refused(`There is no list named ${name}.`, 'lists');
      return list.addresses;
    });
    const unique = new Map([...to, ...addresses].map((address) => [address.toLowerCase(), address]));
    if (unique.size === 0) throw refused('No recipients. Enter at least one address, or choose a list.', 'to');
    return [...unique.values()];
  }
}
