import { demoSchema } from '@wise-margin/contract';

import { download, type Route, route } from '../http/route.ts';
import type { DemoService } from './service.ts';

/** The demo companies, and sample files to import. */
export function demoRoutes(demo: DemoService): readonly Route[] {
  const path = '/demo-companies';
  return [
    route({
      method: 'get',
      path,
      summary: 'The demo companies, whether they are there or being added',
      response: demoSchema,
      handle: () => demo.describe(),
    }),
    route({
      method: 'post',
      path,
      summary: 'Add the demo companies, in the background',
      response: demoSchema,
      status: 202,
      handle: async () => {
        await demo.begin();
        return demo.describe();
      },
    }),
    route({
      method: 'delete',
      path,
      summary: 'Remove the demo companies with their ledgers, budgets and views',
      response: null,
      handle: () => demo.remove(),
    }),
    download({
      method: 'get',
      path: '/sample-files/:name',
      summary: 'A sample import file: accounts or ledger as CSV, or a bank statement of the demo',
      type: 'text/csv',
      handle: async ({ path: { name } }) => ({ content: await demo.sample(name), name: name.includes('.') ? name : `sample-${name}.csv` }),
    }),
  ];
}
