import { lazy, type ReactNode, Suspense } from 'react';
import { Navigate, type RouteObject } from 'react-router';

import { Start } from './overview/start-page.tsx';
import { Frame } from './shell/frame.tsx';
import { NoPageHere, NoPartHere, Numbered } from './shell/no-page-here.tsx';
import { NoSuchPage, RouteFailure } from './shell/route-failure.tsx';
import { Loading } from './ui/states.tsx';

const Overview = lazy(() => import('./overview/overview-page.tsx'));
const LedgerPage = lazy(() => import('./ledger/ledger-page.tsx'));
const ImportsPage = lazy(() => import('./ledger/imports-page.tsx'));
const ImportPage = lazy(() => import('./ledger/import-page.tsx'));
const FirstImportPage = lazy(() => import('./ledger/first-import-page.tsx'));
const NewImportPage = lazy(() => import('./ledger/new-import-page.tsx'));
const EntriesPage = lazy(() => import('./ledger/entries-page.tsx'));
const AuditPage = lazy(() => import('./ledger/audit-page.tsx'));
const AccountsPage = lazy(() => import('./ledger/accounts-page.tsx'));
const ReportPage = lazy(() => import('./reports/report-page.tsx'));
const BudgetsPage = lazy(() => import('./budgets/budgets-page.tsx'));
const ComparisonPage = lazy(() => import('./budgets/comparison-page.tsx'));
const BalancePlanPage = lazy(() => import('./budgets/balance-plan/balance-plan-page.tsx'));
const BudgetPage = lazy(() => import('./budgets/budget-page.tsx'));
const LibraryPage = lazy(() => import('./statements/library-page.tsx'));
const PeriodsPage = lazy(() => import('./ledger/periods-page.tsx'));
const DraftsPage = lazy(() => import('./ledger/drafts-page.tsx'));
const StatisticsPage = lazy(() => import('./ledger/statistics-page.tsx'));
const EditorPage = lazy(() => import('./statements/editor/editor-page.tsx'));
const NewViewPage = lazy(() => import('./statements/editor/new-view-page.tsx'));
const FindingsPage = lazy(() => import('./findings/findings-page.tsx'));
const VariancesPage = lazy(() => import('./findings/variances-page.tsx'));
const PostingsPage = lazy(() => import('./findings/postings-page.tsx'));
const TieOutsPage = lazy(() => import('./findings/tie-outs-page.tsx'));
const LimitsPage = lazy(() => import('./findings/limits-page.tsx'));
const ReconciliationPage = lazy(() => import('./reconciliation/reconciliation-page.tsx'));
const PacksPage = lazy(() => import('./packs/packs-page.tsx'));
const PackPage = lazy(() => import('./packs/pack-page.tsx'));
const OutboxPage = lazy(() => import('./packs/outbox-page.tsx'));
const CompanyRunsPage = lazy(() => import('./packs/company-runs-page.tsx'));
const SchedulesPage = lazy(() => import('./packs/schedules-page.tsx'));
const IssuePage = lazy(() => import('./packs/issue-page.tsx'));
const CombinedPage = lazy(() => import('./combined/combined-page.tsx'));
const SharedPage = lazy(() => import('./shared/shared-page.tsx'));
const ViewPage = lazy(() => import('./statements/view-page.tsx'));

const ofBudget = (page: ReactNode) => (
  <Numbered part="budget" otherwise={<NoPageHere />}>
    {page}
  </Numbered>
);

/** Every address of the application. Pages are loaded when they are first opened. */
export const ROUTES: RouteObject[] = [
  { path: '/', element: <Start />, errorElement: <RouteFailure /> },
  {
    path: '/imports/:import',
    element: (
      <Numbered part="import" otherwise={<NoSuchPage />}>
        <FirstImportPage />
      </Numbered>
    ),
    errorElement: <RouteFailure />,
  },
  {
    path: '/shared/:token',
    element: (
      <Suspense fallback={<Loading what="the pack" />}>
        <SharedPage />
      </Suspense>
    ),
    errorElement: <RouteFailure />,
  },
  { path: '*', element: <NoSuchPage /> },
  {
    path: '/c/:company',
    element: <Frame />,
    errorElement: <RouteFailure />,
    children: [
      { index: true, element: <Overview /> },
      {
        path: 'ledger',
        element: <LedgerPage />,
        children: [
          { index: true, element: <Navigate to="imports" replace /> },
          { path: 'imports', element: <ImportsPage /> },
          { path: 'imports/new', element: <NewImportPage /> },
          {
            path: 'imports/:import',
            element: (
              <Numbered part="import" otherwise={<NoPartHere />}>
                <ImportPage />
              </Numbered>
            ),
          },
          { path: 'entries', element: <EntriesPage /> },
          { path: 'audit', element: <AuditPage /> },
          { path: 'accounts', element: <AccountsPage /> },
          { path: 'reports', element: <Navigate to="trial-balance" replace /> },
          { path: 'reports/:report', element: <ReportPage /> },
          { path: 'drafts', element: <DraftsPage /> },
          { path: 'periods', element: <PeriodsPage /> },
          { path: 'reconciliation', element: <ReconciliationPage /> },
          { path: 'statistics', element: <StatisticsPage /> },
        ],
      },
      { path: 'budgets', element: <BudgetsPage /> },
      { path: 'budgets/:budget', element: ofBudget(<BudgetPage />) },
      { path: 'budgets/:budget/balance-plan', element: ofBudget(<BalancePlanPage />) },
      { path: 'budgets/:budget/comparison', element: ofBudget(<ComparisonPage />) },
      { path: 'statements', element: <LibraryPage /> },
      { path: 'statements/new', element: <NewViewPage /> },
      { path: 'statements/combined', element: <CombinedPage /> },
      { path: 'statements/:view', element: <ViewPage /> },
      { path: 'statements/:view/edit', element: <EditorPage /> },
      {
        path: 'findings',
        element: <FindingsPage />,
        children: [
          { index: true, element: <Navigate to="variances" replace /> },
          { path: 'variances', element: <VariancesPage /> },
          { path: 'postings', element: <PostingsPage /> },
          { path: 'tie-outs', element: <TieOutsPage /> },
          { path: 'limits', element: <LimitsPage /> },
        ],
      },
      { path: 'packs', element: <PacksPage /> },
      { path: 'packs/outbox', element: <OutboxPage /> },
      { path: 'packs/companies', element: <CompanyRunsPage /> },
      { path: 'packs/schedules', element: <SchedulesPage /> },
      { path: 'packs/:pack', element: <PackPage /> },
      { path: 'packs/:pack/:issue', element: <IssuePage /> },
      { path: '*', element: <NoPageHere /> },
    ],
  },
];
