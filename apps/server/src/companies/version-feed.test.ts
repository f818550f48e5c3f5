import { expect, it } from 'vitest';

import type { Database } from '../database/database.ts';
import { VersionFeed } from './version-feed.ts';

it('a change of its own process is told at once, an older version and another company’s not at all', () => {
  const feed = new VersionFeed({ select: () => Promise.resolve([]) } as unknown as Database);
  const heard: number[] = [];
  const end = feed.listen(1, (version) => heard.push(version));
  feed.tell(1, 5);
  feed.tell(1, 4);
  feed.tell(1, 5);
  feed.tell(2, 9);
  expect(heard).toEqual([5]);
  feed.tell(1, 6);
  end();
  feed.tell(1, 7);
  expect(heard).toEqual([5, 6]);
  feed.close();
});
