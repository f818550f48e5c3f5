/** core <- contract <- server, web, cli; the web never imports the server; no circles; features through their index. */
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^packages/core/', pathNot: '\\.test\\.ts$' },
      to: { pathNot: '^packages/core/' },
    },
    {
      name: 'contract-knows-the-core-only',
      severity: 'error',
      from: { path: '^packages/contract/', pathNot: '\\.test\\.ts$' },
      to: { path: '^(apps|demo)/' },
    },
    { name: 'web-never-the-server', severity: 'error', from: { path: '^apps/web/' }, to: { path: '^(apps/(server|cli)|demo)/' } },
    {
      name: 'server-not-the-edges',
      severity: 'error',
      from: { path: '^apps/server/', pathNot: '\\.test\\.ts$' },
      to: { path: '^apps/(web|cli)/' },
    },
    {
      name: 'demo-data-in-one-place',
      severity: 'error',
      from: { path: '^apps/', pathNot: ['\\.test\\.ts$', '^apps/server/src/demo/'] },
      to: { path: '^demo/' },
    },
    { name: 'demo-knows-nobody', severity: 'error', from: { path: '^demo/', pathNot: '\\.test\\.ts$' }, to: { path: '^(apps|packages)/' } },
    {
      name: 'not-through-the-index-inside',
      severity: 'error',
      from: { path: '^packages/(core|contract)/src/(?!index\\.ts)', pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/(core|contract)/src/index\\.ts$', pathNot: '^packages/core/src/index\\.ts$' },
    },
    {
      name: 'core-not-its-own-index',
      severity: 'error',
      from: { path: '^packages/core/src/(?!index\\.ts)', pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/core/src/index\\.ts$' },
    },
    {
      name: 'features-through-their-index',
      severity: 'error',
      from: { path: '^apps/server/src/(ledger|budgets|statements)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^apps/server/src/(ledger|budgets|statements)/', pathNot: ['^apps/server/src/$1/', '/index\\.ts$'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(node_modules|dist|\\.cache)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.mjs', '.js'],
    },
  },
};
