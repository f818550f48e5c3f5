import { z } from 'zod';
import { createDocument, type ZodOpenApiPathsObject } from 'zod-openapi';

import { type Route, route } from './route.ts';

/** The OpenAPI document of routes, made from the schemas that parse their requests. */
export function openApiDocument(routes: readonly Route[]): object {
  const paths: Record<string, ZodOpenApiPathsObject[string]> = {};
  for (const { path, method, operation } of routes) {
    const address = `/api${path.replaceAll(/:(\w+)/g, '{$1}')}`;
    paths[address] = { ...paths[address], [method]: operation };
  }
  return createDocument({
    openapi: '3.1.0',
    info: {
      title: 'Wise Margin',
      version: '0.1.0',
      description: 'Amounts are whole minor units of the company currency; ratios are fractions.',
    },
    paths,
  });
}

/** What the server says about itself: that it runs, and the description of the routes and of these two. */
export function serverRoutes(routes: readonly Route[]): readonly Route[] {
  const own: readonly Route[] = [
    route({
      method: 'get',
      path: '/health',
      summary: 'Health check',
      response: z.object({ ok: z.boolean() }),
      handle: () => ({ ok: true }),
    }),
    route({
      method: 'get',
      path: '/openapi.json',
      summary: 'This document',
      response: z.looseObject({}),
      handle: () => ({ ...openApiDocument([...own, ...routes]) }),
    }),
  ];
  return own;
}
