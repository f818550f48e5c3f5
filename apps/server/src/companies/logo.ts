import { type Actor, recordAudit } from '../database/audit.ts';
import type { Database } from '../database/database.ts';
import { canBeDrawn } from '../formats/drawable-picture.ts';
import { refused } from '../http/problem.ts';

/** A company's logo as it was given. */
export type Logo = { readonly type: 'image/png' | 'image/jpeg'; readonly base64: string; readonly version: number };

const MOST_BYTES = 500_000;
const SIGNATURES: readonly (readonly [Logo['type'], readonly number[]])[] = [
  ['image/png', [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]],
  ['image/jpeg', [0xff, 0xd8, 0xff]],
];

type IsDrawable = (type: Logo['type'], bytes: Buffer) => Promise<boolean>;

export class LogoStore {
  readonly #database: Database;

  readonly #isDrawable: IsDrawable;

  /** @param isDrawable whether a picture can be drawn on a page */
  constructor(database: Database, isDrawable: IsDrawable = canBeDrawn) {
    this.#database = database;
    this.#isDrawable = isDrawable;
  }

  async of(companyId: number): Promise<Logo | null> {
    const [logo] = await this.#database.select<Logo>('SELECT type, base64, version FROM company_logos WHERE company_id = $1', [companyId]);
    return logo ?? null;
  }

  /** Keeps a PNG or JPEG picture. @throws ProblemError 422 for anything else, and past 500 kB */
  async put(companyId: number, bytes: Buffer, actor: Actor): Promise<void> {
    const found = SIGNATURES.find(([, signature]) => signature.every((byte, index) => bytes[index] === byte));
    if (!found) throw refused('The logo is neither a PNG nor a JPEG picture. Save it as one of these.', 'logo');
    if (bytes.length > MOST_BYTES)
      throw refused(`The logo has ${Math.ceil(bytes.length / 1000)} kB; the limit is 500 kB. Save it smaller.`, 'logo');
    if (!(await this.#isDrawable(found[0], bytes)))
      throw refused('The picture is damaged and cannot be drawn. Save it again as PNG or JPEG.', 'logo');
    await this.#database.write(async (transaction) => {
      await this.#database.run(
        'INSERT INTO company_logos (company_id, type, base64) VALUES ($1, $2, $3) ON CONFLICT (company_id) DO UPDATE SET type = excluded.type, base64 = excluded.base64, version = version + 1',
        [companyId, found[0], bytes.toString('base64')],
        transaction,
      );
      await recordAudit(
        this.#database,
        { companyId, actor, action: 'logo.change', subject: 'logo', details: { bytes: bytes.length } },
        transaction,
      );
    });
  }

  async remove(companyId: number, actor: Actor): Promise<void> {
    await this.#database.write(async (transaction) => {
      await this.#database.run('DELETE FROM company_logos WHERE company_id = $1', [companyId], transaction);
      await recordAudit(this.#database, { companyId, actor, action: 'logo.remove', subject: 'logo', details: {} }, transaction);
    });
  }
}
