import { FloatingPanel } from './floating-panel.tsx';
import { CheckField } from './labeled-field.tsx';
import type { ListColumns } from './use-list-columns.ts';

/** The columns of a list that can be shown or left out; the first, which names the row, stays. */
export function ColumnChoice({
  columns,
  chosen,
}: {
  readonly columns: readonly { readonly key: string; readonly name: string }[];
  readonly chosen: ListColumns;
}) {
  return (
    <FloatingPanel label="Columns" count={chosen.changed}>
      <div className="flex flex-col gap-1">
        {columns.slice(1).map(({ key, name }) => (
          <CheckField key={key} label={name} checked={chosen.isShown(key)} set={() => chosen.toggle(key)} />
        ))}
      </div>
    </FloatingPanel>
  );
}
