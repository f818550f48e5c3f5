import type { Application } from '@wise-margin/server';

import type { Answer } from '../output.ts';
import { RefusedError } from '../usage.ts';

/** Makes the demo companies. @throws RefusedError when the folder holds companies already, or they could not be made */
export async function makeDemo({ database, demo }: Application, directory: string): Promise<Answer> {
  const held = await database.models.companies.count();
  if (held > 0) throw new RefusedError(`The folder ${directory} already has companies. Choose another with --data, or delete it.`);
  await demo.begin();
  await demo.settled();
  const { companies, failure } = await demo.describe();
  if (failure !== null) throw new RefusedError(failure);
  return {
    title: 'The demo companies are ready',
    headings: ['company', 'number'],
    rows: companies.map(({ id, name }) => [name, String(id)]),
    figures: new Set([1]),
    json: companies,
  };
}
