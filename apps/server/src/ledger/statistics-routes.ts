import { mkdirSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Router } from 'express';
import multer from 'multer';
import type { Actor } from '../database/audit.ts';
import { refused } from '../http/problem.ts';
import { handle, numberIn } from '../http/route.ts';
import type { StatisticsService } from './statistics.ts';

const MOST_BYTES = 50 * 1024 ** 2;

/** Statistics by month, and a file of them, at most 50 MiB. */
export function statisticsRoutes(options: {
  readonly statistics: StatisticsService;
  readonly directory: string;
  readonly actor: Actor;
}): Router {
  const uploads = join(options.directory, 'uploads');
  mkdirSync(uploads, { recursive: true });
  const upload = multer({ dest: uploads, limits: { fileSize: MOST_BYTES, files: 1, fields: 1 } });
  const router = Router();
  const at = '/companies/:company/statistics';
  router.get(
    at,
    handle(async (request, response) => response.json(await options.statistics.byMonth(numberIn(request, 'company')))),
  );
  router.post(
    at,
    upload.single('statistics'),
    handle(async (request, response) => {
      if (!request.file) throw refused('Choose a statistics file.', 'statistics');
      try {
        response.json(await options.statistics.bringIn(numberIn(request, 'company'), request.file.path, options.actor));
      } finally {
        await rm(request.file.path, { force: true });
      }
    }),
  );
  return router;
}
