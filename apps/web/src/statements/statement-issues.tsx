import type { GridDto } from '@wise-margin/contract';

/** What of a statement cannot be shown as asked: where, what, and what to do about it. */
export function StatementIssues({ issues }: { readonly issues: GridDto['issues'] }) {
  if (issues.length === 0) return null;
  return (
    <ul role="alert" className="mb-2 max-h-28 overflow-y-auto border-l-2 border-brick bg-sheet px-3 py-1.5 text-[13px]">
      {issues.map(({ place, message, fix }) => (
        <li key={`${place} ${message}`}>
          <strong>{place}</strong>: {message}. {fix}.
        </li>
      ))}
    </ul>
  );
}
