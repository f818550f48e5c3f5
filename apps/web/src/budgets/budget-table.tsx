import { figureText, type BudgetEditDto, type BudgetGridDto, type BudgetRowDto, type CellDto } from '@wise-margin/contract';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { CellFigure } from '../ui/figure.tsx';
import { ScenarioSwatch } from '../ui/scenario-swatch.tsx';

const MONTHS = 12;
/** Column 12 is the year's total; both it and the months are typed into. */
const YEAR = MONTHS;
type Place = { readonly row: number; readonly column: number };
type Shown = { readonly line: BudgetGridDto['grid']['lines'][number]; readonly index: number; readonly inGroup: boolean };

/** Lines of the budget in statement order: headings, groups with their accounts, totals, formulas. */
export function budgetLines(data: BudgetGridDto, showAll: boolean): Shown[] {
  const { lines } = data.grid;
  const members = new Map<string, number>();
  for (const line of lines) if (line.kind === 'account' && line.parent) members.set(line.parent, (members.get(line.parent) ?? 0) + 1);
  return lines.flatMap((line, index) => {
    if (line.kind === 'accounts' && (members.get(line.key) ?? 0) < 2) return [];
    if ((line.kind === 'account' || line.kind === 'accounts') && !showAll && line.isZero) return [];
    return [{ line, index, inGroup: line.kind === 'account' && (members.get(line.parent ?? '') ?? 0) > 1 }];
  });
}

/**
 * The month grid: type over a figure, arrows move, Enter goes down, Tab right, paste from a
 * spreadsheet. Months in the shown sign; the year's total typed spreads over the free months.
 */
export function BudgetTable({
  data,
  lines,
  exponent,
  spread,
  locked,
  pending,
  selected,
  select,
  apply,
  currencyWords,
}: {
  readonly data: BudgetGridDto;
  readonly lines: readonly Shown[];
  readonly exponent: number;
  readonly spread: 'history' | 'even' | 'days';
  readonly locked: boolean;
  readonly pending: ReadonlyMap<string, string>;
  readonly selected: string | null;
  readonly select: (account: string) => void;
  readonly apply: (edits: BudgetEditDto[], shown: ReadonlyMap<string, string>) => void;
  readonly currencyWords: string;
}) {
  const body = useRef<HTMLTableSectionElement>(null);
  const [editing, setEditing] = useState<(Place & { readonly text: string }) | null>(null);
  const rowOf = new Map<string, BudgetRowDto>(data.rows.map((row) => [row.account, row]));
  const { columns, blocks } = data.grid;
  const focus = ({ row, column }: Place) => {
    const cell = body.current?.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`);
    cell?.focus();
    cell?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  };
  const step = (from: Place, down: number, right: number): Place | null => {
    for (
      let row = from.row + down, column = from.column + right;
      row >= 0 && row < lines.length && column >= 0 && column <= YEAR;
      row += down, column += right
    ) {
      if (lines[row]!.line.account !== null) return { row, column };
      if (down === 0) return null;
    }
    return null;
  };
  const editOf = (account: string, column: number, text: string): BudgetEditDto =>
    column === YEAR ? { kind: 'year', account, text, spread } : { kind: 'month', account, month: column, text };
  const commit = (place: Place, text: string) => {
    setEditing(null);
    const account = lines[place.row]!.line.account!;
    const before = figureText(data.grid.cells[lines[place.row]!.index]![place.column]!, { exponent, unit: 'cents' });
    if (text.trim() === '' || text.trim() === before) return;
    apply([editOf(account, place.column, text.trim())], new Map([[`${account}.${place.column}`, text.trim()]]));
  };
  const paste = (event: ClipboardEvent, from: Place) => {
    const block = event.clipboardData
      .getData('text/plain')
      .replace(/\r?\n$/, '')
      .split(/\r?\n/)
      .map((row) => row.split('\t'));
    if (locked || block.length === 0) return;
    event.preventDefault();
    const accounts = lines.flatMap(({ line }, row) => (line.account !== null && row >= from.row ? [line.account] : []));
    const edits: BudgetEditDto[] = [];
    const shown = new Map<string, string>();
    block.slice(0, accounts.length).forEach((cells, row) =>
      cells.slice(0, YEAR + 1 - from.column).forEach((text, offset) => {
        if (text.trim() === '') return;
        edits.push(editOf(accounts[row]!, from.column + offset, text.trim()));
        shown.set(`${accounts[row]}.${from.column + offset}`, text.trim());
      }),
    );
    if (edits.length > 0) apply(edits, shown);
  };
  const onKey = (event: KeyboardEvent<HTMLElement>, place: Place) => {
    const go = (next: Place | null) => {
      event.preventDefault();
      if (next) focus(next);
    };
    const moves: Readonly<Record<string, readonly [number, number]>> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      Enter: [1, 0],
    };
    const move = moves[event.key];
    if (move) return go(step(place, move[0], move[1]));
    if (locked || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      return commit(place, '0');
    }
    if (event.key === 'F2') {
      event.preventDefault();
      return setEditing({
        ...place,
        text: figureText(data.grid.cells[lines[place.row]!.index]![place.column]!, { exponent, unit: 'cents' }).replace('–', '0'),
      });
    }
    if (/^[0-9.+\-*/(]$/.test(event.key)) {
      event.preventDefault();
      setEditing({ ...place, text: event.key });
    }
  };
  const afterCommit = (event: KeyboardEvent<HTMLInputElement>, place: Place) => {
    event.stopPropagation();
    if (event.key === 'Escape') {
      setEditing(null);
      requestAnimationFrame(() => focus(place));
      return;
    }
    if (event.key !== 'Enter' && event.key !== 'Tab') return;
    event.preventDefault();
    commit(place, event.currentTarget.value);
    const next = event.key === 'Enter' ? step(place, event.shiftKey ? -1 : 1, 0) : step(place, 0, event.shiftKey ? -1 : 1);
    requestAnimationFrame(() => focus(next ?? place));
  };

  return (
    <div className="min-h-0 flex-1 overflow-auto border border-hairline bg-sheet" tabIndex={0} role="region" aria-label="Budget by month">
      <table className="ledger-table">
        <thead className="sticky top-0 z-20 bg-sheet">
          <tr>
            <th
              scope="col"
              className="sticky left-0 z-10 w-60 min-w-60 border-r border-b border-hairline border-b-ink bg-sheet px-3 py-1.5 font-normal! text-ink-soft"
            >
              {currencyWords}
            </th>
            {columns.map((column) => {
              const block = blocks[column.block]!;
              const isMonth = block.key !== 'year';
              return (
                <th
                  key={column.key}
                  scope="col"
                  title={column.words}
                  className={`border-b border-ink px-1.5 text-right! ${column.key === 'year.budget' ? 'pl-4' : ''}`}
                >
                  {!isMonth && column.scenario ? <ScenarioSwatch scenario={column.scenario} /> : null}
                  {isMonth ? block.heading.slice(0, 3) : column.key === 'year.budget' ? 'Year' : column.heading}
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody ref={body}>
          {lines.map(({ line, index, inGroup }, row) => {
            const entry = line.account === null ? undefined : rowOf.get(line.account);
            const isSelected = line.account !== null && line.account === selected;
            const rule = line.rule === 'single' ? 'rule-single' : line.rule === 'double' ? 'rule-double' : '';
            const weight =
              line.emphasis === 'bold' || line.kind === 'section'
                ? 'font-semibold'
                : line.emphasis === 'italic'
                  ? 'italic text-ink-soft'
                  : line.kind === 'accounts'
                    ? 'text-ink-soft'
                    : '';
            return (
              <tr key={line.key} className={`group ${isSelected ? 'bg-wash' : ''}`}>
                <th
                  scope="row"
                  className={`sticky left-0 z-10 max-w-60 truncate border-r border-hairline text-[13px] ${isSelected ? 'bg-wash' : 'bg-sheet group-hover:bg-wash'} ${weight || 'font-normal!'}`}
                  style={{ paddingLeft: 12 + (inGroup ? 22 : line.kind === 'account' ? 10 : line.kind === 'accounts' ? 10 : 0) }}
                  title={line.name}
                >
                  {line.account ? (
                    <>
                      <span className="mr-0.5 text-ink-soft">{line.account}</span>{' '}
                    </>
                  ) : null}
                  {line.name}
                </th>
                {line.kind === 'section' || line.kind === 'spacer' ? (
                  <td colSpan={columns.length} />
                ) : (
                  columns.map((column, position) => {
                    const cell = data.grid.cells[index]![position]!;
                    const plain = (
                      <CellFigure
                        cell={cell}
                        format={{ exponent, unit: 'dollars', withUnit: line.kind === 'formula' && column.kind === 'amount' }}
                      />
                    );
                    if (!entry || position > YEAR) {
                      const soft = column.kind === 'percentDifference' || position > YEAR || line.kind === 'accounts';
                      return (
                        <td
                          key={column.key}
                          className={`figure ${column.kind === 'percentDifference' ? '' : rule} ${line.emphasis === 'bold' && !soft ? 'font-semibold' : ''} ${soft || line.emphasis === 'italic' ? 'text-ink-soft' : ''} ${position === YEAR ? 'pl-4!' : ''}`}
                        >
                          {plain}
                        </td>
                      );
                    }
                    const held = position < MONTHS && entry.held[position] === true;
                    const waiting = pending.get(`${line.account}.${position}`);
                    const isEditing = editing !== null && editing.row === row && editing.column === position;
                    const place = { row, column: position };
                    return (
                      <td
                        key={column.key}
                        className={`figure p-0! ${held ? 'border-b-2 border-prior bg-wash' : ''} ${position === YEAR ? 'pl-3! font-semibold' : ''}`}
                      >
                        {isEditing ? (
                          <input
                            autoFocus
                            aria-label={`${line.name}, ${column.words}`}
                            className="h-[26px] w-20 border-2 border-copper bg-white px-1 text-right"
                            defaultValue={editing.text}
                            onKeyDown={(event) => afterCommit(event, place)}
                            onBlur={(event) => commit(place, event.currentTarget.value)}
                          />
                        ) : (
                          <button
                            type="button"
                            data-row={row}
                            data-column={position}
                            aria-label={`${line.name}, ${column.words}${held ? ', held by hand' : ''}: ${figureText(cell, { exponent, unit: 'cents' })}`}
                            title={held ? 'Held: typed by hand' : undefined}
                            className={`h-[26px] w-full min-w-[66px] px-1.5 text-right hover:bg-wash ${waiting === undefined ? '' : 'text-ink-soft italic'}`}
                            onFocus={() => select(line.account!)}
                            onDoubleClick={() =>
                              locked
                                ? undefined
                                : setEditing({ ...place, text: figureText(cell, { exponent, unit: 'cents' }).replace('–', '0') })
                            }
                            onKeyDown={(event) => onKey(event, place)}
                            onPaste={(event) => paste(event, place)}
                          >
                            {waiting ?? plain}
                          </button>
                        )}
                      </td>
                    );
                  })
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
export type { CellDto };
