/**
 * core <- contract <- presentation <- server, web, cli; the web never imports the server. The server has floors,
 * each knowing only those below it; a folder is imported through its index. No circles, type-only ones included.
 */
const notTests = '\\.test\\.tsx?$';
const server = '^apps/server/src/';
const web = '^apps/web/src/';
/** Floors of the server, lowest first; those on one floor do not know each other. */
const FLOORS = [
  ['database', 'http', 'formats', 'work'],
  ['companies'],
  ['budget-store'],
  ['evaluation'],
  ['ledger', 'budgets', 'statements', 'audit'],
  ['reconciliation', 'combined'],
  ['findings'],
  ['packs'],
  ['mail'],
  ['schedules', 'company-runs'],
  ['search'],
  ['demo'],
];
// generic folders that may use each other, as long as there is no circle
const GENERIC = FLOORS[0];
const WITH_INDEX =
  '(companies|budget-store|evaluation|ledger|budgets|statements|combined|reconciliation|findings|packs|mail|schedules|company-runs|search|demo)';

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^packages/core/', pathNot: notTests },
      to: { pathNot: '^packages/core/' },
    },
    {
      name: 'contract-knows-the-core-only',
      severity: 'error',
      from: { path: '^packages/contract/', pathNot: notTests },
      to: { path: '^(apps|demo|packages/presentation)/' },
    },
    {
      name: 'presentation-knows-core-and-contract-only',
      severity: 'error',
      from: { path: '^packages/presentation/', pathNot: notTests },
      to: { path: '^(apps|demo)/' },
    },
    { name: 'web-never-the-server', severity: 'error', from: { path: '^apps/web/' }, to: { path: '^(apps/(server|cli)|demo)/' } },
    {
      name: 'server-not-the-edges',
      severity: 'error',
      from: { path: '^apps/server/', pathNot: notTests },
      to: { path: '^apps/(web|cli)/' },
    },
    {
      name: 'demo-data-in-one-place',
      severity: 'error',
      from: { path: '^apps/', pathNot: [notTests, `${server}demo/`] },
      to: { path: '^demo/' },
    },
    { name: 'demo-knows-nobody', severity: 'error', from: { path: '^demo/', pathNot: notTests }, to: { path: '^(apps|packages)/' } },
    {
      name: 'not-through-its-own-index',
      severity: 'error',
      from: { path: '^packages/(core|contract|presentation)/src/(?!index\\.ts)', pathNot: notTests },
      to: { path: '^packages/$1/src/index\\.ts$' },
    },
    ...FLOORS.map((floor, level) => ({
      name: `server-floor-${floor.join('-')}`,
      comment: 'a floor of the server knows only the floors below it',
      severity: 'error',
      from: { path: `${server}(${floor.join('|')})/`, pathNot: notTests },
      to: {
        path: server,
        pathNot: [
          `${server}$1/`,
          ...FLOORS.slice(0, level).flatMap((below) => below.map((folder) => `${server}${folder}/`)),
          ...(level === 0 ? GENERIC.map((folder) => `${server}${folder}/`) : []),
        ],
      },
    })),
    {
      name: 'server-folders-through-their-index',
      severity: 'error',
      from: { path: `${server}([^/]+)`, pathNot: notTests },
      to: { path: `${server}${WITH_INDEX}/`, pathNot: [`${server}$1/`, `${server}[^/]+/(index|files)\\.ts$`] },
    },
    {
      name: 'web-ui-knows-no-feature',
      severity: 'error',
      from: { path: `${web}(ui|api)/`, pathNot: notTests },
      to: {
        path: `${web}(shell|data|overview|ledger|budgets|statements|combined|shared|findings|packs|reconciliation|drill-down|filters|corrections)/`,
      },
    },
    {
      name: 'web-data-knows-no-feature',
      severity: 'error',
      from: { path: `${web}data/`, pathNot: notTests },
      to: {
        path: `${web}(shell|overview|ledger|budgets|statements|combined|shared|findings|packs|reconciliation|drill-down|filters|corrections)/`,
      },
    },
    {
      name: 'web-shell-knows-no-feature',
      severity: 'error',
      from: { path: `${web}shell/`, pathNot: notTests },
      to: {
        path: `${web}(overview|ledger|budgets|statements|combined|shared|findings|packs|reconciliation|drill-down|filters|corrections)/`,
      },
    },
    {
      name: 'web-features-through-their-index',
      comment: 'a feature does not reach into another; pages are loaded by main.tsx alone',
      severity: 'error',
      from: {
        path: `${web}(overview|ledger|budgets|statements|combined|shared|findings|packs|reconciliation|drill-down|filters|corrections)/`,
        pathNot: notTests,
      },
      to: {
        path: `${web}(shell|overview|ledger|budgets|statements|combined|shared|findings|packs|reconciliation|drill-down|filters|corrections)/`,
        pathNot: [`${web}$1/`, `${web}[^/]+/index\\.ts$`],
      },
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
