import { Router } from 'express';
import { handle } from '../http/route.ts';
import type { DemoService } from './service.ts';

export function demoRoutes(demo: DemoService): Router {
  const router = Router();
  router.get(
    '/demo-companies',
    handle(async (_, response) => response.json(await demo.describe())),
  );
  router.post(
    '/demo-companies',
    handle(async (_, response) => {
      await demo.begin();
      response.status(202).json(await demo.describe());
    }),
  );
  router.delete(
    '/demo-companies',
    handle(async (_, response) => {
      await demo.remove();
      response.status(204).end();
    }),
  );
  router.get(
    '/sample-files/:name',
    handle(async (request, response) => {
      const name = String(request.params['name']);
      const text = await demo.sample(name);
      response.attachment(`sample-${name}.csv`).type('text/csv').send(text);
    }),
  );
  return router;
}
