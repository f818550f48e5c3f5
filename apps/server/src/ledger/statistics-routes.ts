import { rm } from 'node:fs/promises';
import { Router } from 'express';
import type { Actor } from '../database/audit.ts';
import { refused } from '../http/problem.ts';
import { statisticsImportSchema } from '@wise-margin/contract';
import { handle, numberIn, parse } from '../http/route.ts';
import { uploadOf, uploadedFiles } from '../http/upload.ts';
import type { StatisticsService } from './statistics.ts';

const MOST_BYTES = 50 * 1024 ** 2;

/** Statistics by month, and a file of them, at most 50 MiB. */
export function statisticsRoutes(options: {
  readonly statistics: StatisticsService;
  readonly directory: string;
  readonly actor: Actor;
}): Router {
  const router = Router();
  const at = '/companies/:company/statistics';
  router.get(
    at,
    handle(async (request, response) => response.json(await options.statistics.byMonth(numberIn(request, 'company')))),
  );
  router.post(
    at,
    uploadOf([{ name: 'statistics', maxCount: 1 }], { directory: options.directory, mostBytes: MOST_BYTES }),
    handle(async (request, response) => {
      const file = uploadedFiles(request.files)['statistics']?.[0];
      if (!file) throw refused('Choose a statistics file.', 'statistics');
      try {
        const { fingerprint } = parse(statisticsImportSchema, request.body);
        response.json(
          await options.statistics.importFile(numberIn(request, 'company'), { path: file.path, fingerprint, actor: options.actor }),
        );
      } finally {
        await rm(file.path, { force: true });
      }
    }),
  );
  return router;
}
