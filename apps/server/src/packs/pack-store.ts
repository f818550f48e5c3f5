import { type NewPack, type PackChange, type PackDto, packSectionSchema } from '@wise-margin/contract';
import { type Pack, SHIPPED_PACKS, shippedPack } from '@wise-margin/core';
import type { Transaction } from 'sequelize';
import { z } from 'zod';

import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { notFound, ProblemError, refused } from '../http/problem.ts';

type Row = {
  readonly id: number;
  readonly company_id: number | null;
  readonly key: string;
  readonly name: string;
  readonly note: string;
  readonly split_by: string | null;
  readonly sections: string;
  readonly version: number;
};
const sectionsSchema = z.array(packSectionSchema);

/** The key of a design, and the company that asks for it. */
export type PackPlace = { readonly company: number; readonly pack: string };

/**
 * The designs of packs. A company sees its own design of a key, else the one for all companies, else the built-in one:
 * a change for all companies reaches every company that has not changed its own.
 */
export class PackStore {
  readonly #database: Database;

  constructor(database: Database) {
    this.#database = database;
  }

  /** The packs a company sees, built-in ones first. */
  async list(companyId: number): Promise<PackDto[]> {
    const rows = await this.#rows(companyId);
    const keys = new Set([...SHIPPED_PACKS.map(({ key }) => key), ...rows.map(({ key }) => key)]);
    const changedBy = await this.#changedBy();
    return [...keys].map((key) => packDto(key, { rows: rows.filter((row) => row.key === key), changedBy }));
  }

  /** @throws ProblemError 404 */
  async of({ company, pack: key }: PackPlace): Promise<PackDto> {
    const rows = (await this.#rows(company)).filter((row) => row.key === key);
    if (rows.length === 0 && !shippedPack(key)) throw notFound(`pack "${key}"`);
    return packDto(key, { rows, changedBy: await this.#changedBy() });
  }

  /** @throws ProblemError 422 for a name that a pack of the company has already */
  async create(companyId: number, pack: NewPack, actor: Actor): Promise<PackDto> {
    const key = await this.#database.write(async (transaction) => {
      await this.#refuseKnownName(companyId, { name: pack.name, except: null, transaction });
      const [next] = await this.#database.select<{ id: number }>('SELECT coalesce(max(id), 0) + 1 AS id FROM packs', [], transaction);
      const made = `pack-${next!.id}`;
      await this.#insert({ company: companyId, pack: made }, pack, { actor, transaction });
      return made;
    });
    return this.of({ company: companyId, pack: key });
  }

  /**
   * Saves a design for one company or for all. A company's own is made the first time it is changed for the company
   * alone; a change for all leaves companies that have their own as they are.
   * @throws ProblemError 409 when somebody else saved it meanwhile
   */
  async change(place: PackPlace, change: PackChange, actor: Actor): Promise<PackDto> {
    await this.#database.write(async (transaction) => {
      const rows = (await this.#rows(place.company, transaction)).filter(({ key }) => key === place.pack);
      if (rows.length === 0 && !shippedPack(place.pack)) throw notFound(`pack "${place.pack}"`);
      await this.#refuseKnownName(place.company, { name: change.name, except: place.pack, transaction });
      const seen = rows.at(-1)?.version ?? 0;
      if (seen !== change.version)
        throw new ProblemError(409, 'Changed meanwhile', 'Somebody else saved this pack. Reload it to see their changes, then make yours.');
      const target = rows.find(({ company_id: owner }) => (change.scope === 'all' ? owner === null : owner !== null));
      // a company's own design keeps counting from the one it comes from, so that no two saves have one version
      if (!target) await this.#insert(place, change, { actor, transaction, version: seen + 1 });
      else
        await this.#database.run(
          'UPDATE packs SET name = $2, note = $3, split_by = $4, sections = $5, version = $6, saved_at = $7, saved_by = $8 WHERE id = $1',
          [target.id, ...partsOf(change), seen + 1, actor.now().toISOString(), actor.name],
          transaction,
        );
      // an own design that is saved for all is the one for all from now on
      if (change.scope === 'all')
        await this.#database.run('DELETE FROM packs WHERE company_id = $1 AND key = $2', [place.company, place.pack], transaction);
      await this.#audit(place, { action: 'pack.change', name: change.name, scope: change.scope }, { actor, transaction });
    });
    return this.of(place);
  }

  /** Takes back a company's own design, or one for all companies; what it came from is seen again. @throws ProblemError 409 for a built-in one */
  async remove(place: PackPlace, actor: Actor): Promise<void> {
    await this.#database.write(async (transaction) => {
      const rows = (await this.#rows(place.company, transaction)).filter(({ key }) => key === place.pack);
      const own = rows.at(-1);
      if (!own && shippedPack(place.pack)) throw new ProblemError(409, 'Built-in pack', 'A built-in pack cannot be deleted.');
      if (!own) throw notFound(`pack "${place.pack}"`);
      await this.#database.run('DELETE FROM packs WHERE id = $1', [own.id], transaction);
      const scope = own.company_id === null ? 'all' : 'company';
      await this.#audit(place, { action: 'pack.remove', name: own.name, scope }, { actor, transaction });
    });
  }

  async #insert(
    { company, pack: key }: PackPlace,
    pack: NewPack,
    { actor, transaction, version = 1 }: { readonly actor: Actor; readonly transaction: Transaction; readonly version?: number },
  ): Promise<void> {
    await this.#database.run(
      'INSERT INTO packs (company_id, key, name, note, split_by, sections, version, saved_at, saved_by) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)',
      [pack.scope === 'all' ? null : company, key, ...partsOf(pack), version, actor.now().toISOString(), actor.name],
      transaction,
    );
    if (version === 1)
      await this.#audit({ company, pack: key }, { action: 'pack.create', name: pack.name, scope: pack.scope }, { actor, transaction });
  }

  #audit(
    { company, pack }: PackPlace,
    { action, name, scope }: { readonly action: string; readonly name: string; readonly scope: string },
    { actor, transaction }: { readonly actor: Actor; readonly transaction: Transaction },
  ): Promise<void> {
    return recordAudit(this.#database, { companyId: company, actor, action, subject: pack, details: { name, scope } }, transaction);
  }

  /** Designs for all companies before a company's own. */
  #rows(companyId: number, transaction?: Transaction): Promise<Row[]> {
    return this.#database.select<Row>(
      'SELECT * FROM packs WHERE company_id IS NULL OR company_id = $1 ORDER BY company_id IS NOT NULL, name COLLATE NOCASE',
      [companyId],
      transaction,
    );
  }

  /** Names of the companies with a design of their own, by key. */
  async #changedBy(): Promise<ReadonlyMap<string, string[]>> {
    const rows = await this.#database.select<{ key: string; name: string }>(
      'SELECT p.key, c.name FROM packs p JOIN companies c ON c.id = p.company_id ORDER BY c.id',
    );
    const names = new Map<string, string[]>();
    for (const { key, name } of rows) names.set(key, [...(names.get(key) ?? []), name]);
    return names;
  }

  async #refuseKnownName(
    companyId: number,
    { name, except, transaction }: { readonly name: string; readonly except: string | null; readonly transaction: Transaction },
  ): Promise<void> {
    const rows = await this.#rows(companyId, transaction);
    const others = [...SHIPPED_PACKS, ...rows].filter(({ key }) => key !== except);
    if (others.some((other) => other.name.toLowerCase() === name.toLowerCase()))
      throw refused(`There is a pack named ${name} already. Give this one another name.`, 'name');
  }
}

const partsOf = ({ name, note, splitBy, sections }: Omit<Pack, 'key'>): [string, string, string | null, string] => [
  name,
  note,
  splitBy,
  JSON.stringify(sections),
];

function packDto(
  key: string,
  { rows, changedBy }: { readonly rows: readonly Row[]; readonly changedBy: ReadonlyMap<string, string[]> },
): PackDto {
  const row = rows.at(-1);
  const others = changedBy.get(key) ?? [];
  if (!row) return { ...shippedPack(key)!, sections: [...shippedPack(key)!.sections], scope: 'builtIn', version: 0, changedBy: others };
  return {
    key,
    name: row.name,
    note: row.note,
    splitBy: row.split_by,
    sections: sectionsSchema.parse(JSON.parse(row.sections)),
    scope: row.company_id === null ? 'all' : 'company',
    version: row.version,
    changedBy: others,
  };
}
