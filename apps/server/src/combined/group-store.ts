import type { CompanyGroupChange } from '@wise-margin/contract';
import type { Transaction } from 'sequelize';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound, ProblemError, refused } from '../http/problem.ts';

/** A group as it is stored. */
export type CompanyGroup = {
  readonly id: number;
  readonly name: string;
  readonly currency: string;
  /** the first member when the company chosen was deleted */
  readonly lead: number;
  readonly version: number;
  readonly members: readonly { readonly company: number; readonly intercompany: readonly string[] }[];
};
type Row = {
  readonly id: number;
  readonly name: string;
  readonly currency: string;
  readonly lead_id: number | null;
  readonly version: number;
};
type MemberRow = { readonly group_id: number; readonly company_id: number; readonly intercompany: string };

/** Groups of companies, by name. */
export class GroupStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  async list(transaction?: Transaction): Promise<CompanyGroup[]> {
    const rows = await this.#database.select<Row>('SELECT * FROM company_groups ORDER BY name COLLATE NOCASE', [], transaction);
    const members = await this.#database.select<MemberRow>(
      'SELECT group_id, company_id, intercompany FROM company_group_members ORDER BY group_id, position',
      [],
      transaction,
    );
    return rows.map(({ id, name, currency, lead_id: lead, version }) => {
      const own = members
        .filter(({ group_id: group }) => group === id)
        .map((member) => ({ company: member.company_id, intercompany: JSON.parse(member.intercompany) as string[] }));
      return { id, name, currency, lead: lead ?? own[0]!.company, version, members: own };
    });
  }

  /** @throws ProblemError 404 */
  async of(id: number, transaction?: Transaction): Promise<CompanyGroup> {
    const found = (await this.list(transaction)).find((group) => group.id === id);
    if (!found) throw notFound(`company group ${id}`);
    return found;
  }

  /** @throws ProblemError 422 for a name that is used already */
  create(change: CompanyGroupChange, actor: Actor): Promise<number> {
    return this.#database.write(async (transaction) => {
      await this.#refuseKnownName(change.name, null, transaction);
      await this.#database.run(
        'INSERT INTO company_groups (name, currency, lead_id) VALUES ($1, $2, $3)',
        [change.name, change.currency, change.lead],
        transaction,
      );
      const [made] = await this.#database.select<{ id: number }>('SELECT max(id) AS id FROM company_groups', [], transaction);
      await this.#writeMembers(made!.id, change, transaction);
      await this.#audit('companyGroup.create', { id: made!.id, name: change.name }, { actor, transaction });
      return made!.id;
    });
  }

  /** @throws ProblemError 409 when another version was saved since it was opened; 422 for a name that is used already */
  async change(id: number, { version, ...change }: CompanyGroupChange & { readonly version: number }, actor: Actor): Promise<void> {
    await this.#database.write(async (transaction) => {
      const group = await this.of(id, transaction);
      if (group.version !== version)
        throw new ProblemError(
          409,
          'Changed meanwhile',
          'Somebody else saved this group. Reload it to see their changes, then make yours.',
        );
      await this.#refuseKnownName(change.name, id, transaction);
      await this.#database.run(
        'UPDATE company_groups SET name = $2, currency = $3, lead_id = $4, version = version + 1 WHERE id = $1',
        [id, change.name, change.currency, change.lead],
        transaction,
      );
      await this.#database.run('DELETE FROM company_group_members WHERE group_id = $1', [id], transaction);
      await this.#writeMembers(id, change, transaction);
      await this.#audit('companyGroup.change', { id, name: change.name }, { actor, transaction });
    });
  }

  /** @throws ProblemError 404 */
  async remove(id: number, actor: Actor): Promise<void> {
    await this.#database.write(async (transaction) => {
      const { name } = await this.of(id, transaction);
      await this.#database.run('DELETE FROM company_group_members WHERE group_id = $1', [id], transaction);
      await this.#database.run('DELETE FROM company_groups WHERE id = $1', [id], transaction);
      await this.#audit('companyGroup.remove', { id, name }, { actor, transaction });
    });
  }

  async #writeMembers(id: number, { members }: CompanyGroupChange, transaction: Transaction): Promise<void> {
    for (const [position, { company, intercompany }] of members.entries())
      await this.#database.run(
        'INSERT INTO company_group_members (group_id, company_id, position, intercompany) VALUES ($1, $2, $3, $4)',
        [id, company, position, JSON.stringify(intercompany)],
        transaction,
      );
  }

  /** A group is nobody's alone, so its events belong to no company. */
  #audit(
    action: string,
    { id, name }: { readonly id: number; readonly name: string },
    { actor, transaction }: { readonly actor: Actor; readonly transaction: Transaction },
  ): Promise<void> {
    return recordAudit(this.#database, { companyId: null, actor, action, subject: `group-${id}`, details: { name } }, transaction);
  }

  async #refuseKnownName(name: string, except: number | null, transaction: Transaction): Promise<void> {
    const others = (await this.list(transaction)).filter(({ id }) => id !== except);
    if (others.some((other) => other.name.toLowerCase() === name.toLowerCase()))
      throw refused(`There is a group named ${name} already. Give this one another name.`, 'name');
  }
}
