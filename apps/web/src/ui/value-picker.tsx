import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ChevronDown } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';

const ROW = 26;

/** Several values picked out of any number, found by typing; the list draws only what is in view. */
export function ValuePicker({
  label,
  all,
  values,
  nameOf,
  choose,
}: {
  readonly label: string;
  readonly all: readonly string[];
  readonly values: readonly string[];
  readonly nameOf: (value: string) => string;
  readonly choose: (values: string[]) => void;
}) {
  const words = values.length === 0 ? 'All' : values.length <= 2 ? values.map(nameOf).join(', ') : `${values.length} chosen`;
  return (
    <Disclosure as="div" className="min-w-0 flex-1">
      <DisclosureButton aria-label={`${label}: ${words}`} className="field flex w-full items-center gap-1 py-0.5 text-[13px]">
        <span className={`min-w-0 flex-1 truncate text-left ${values.length > 0 ? '' : 'text-ink-soft'}`}>{words}</span>
        <ChevronDown size={13} aria-hidden="true" />
      </DisclosureButton>
      <DisclosurePanel>
        <ValueList label={label} all={all} values={values} nameOf={nameOf} choose={choose} />
      </DisclosurePanel>
    </Disclosure>
  );
}

function ValueList({ label, all, values, nameOf, choose }: Parameters<typeof ValuePicker>[0]) {
  const [find, setFind] = useState('');
  const scroller = useRef<HTMLDivElement>(null);
  const shown = useMemo(() => {
    const wanted = find.trim().toLowerCase();
    return all.filter((value) => nameOf(value).toLowerCase().includes(wanted));
  }, [all, find, nameOf]);
  // oxlint-disable-next-line react/incompatible-library -- the virtualizer is read in this component only
  const virtual = useVirtualizer({ count: shown.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 6 });
  const toggle = (value: string) => choose(values.includes(value) ? values.filter((each) => each !== value) : [...values, value]);
  return (
    <div className="mt-1 border border-hairline">
      <input
        // the list was opened to find something in it
        autoFocus
        className="w-full border-b border-hairline bg-sheet px-2 py-1"
        aria-label={`Find among ${label}`}
        placeholder={`Find among ${all.length.toLocaleString('en-US')}`}
        value={find}
        onChange={(event) => setFind(event.target.value)}
        onKeyDown={(event) => {
          const [first] = shown;
          if (event.key === 'Enter' && first !== undefined) toggle(first);
        }}
      />
      <div ref={scroller} className="max-h-36 overflow-y-auto" role="group" aria-label={label}>
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const value = shown[index]!;
            return (
              <label
                key={value}
                className="absolute inset-x-0 flex items-center gap-2 px-2 hover:bg-wash"
                style={{ top: start, height: ROW }}
              >
                <input type="checkbox" className="accent-copper" checked={values.includes(value)} onChange={() => toggle(value)} />
                <span className="truncate">{nameOf(value)}</span>
              </label>
            );
          })}
        </div>
        {shown.length === 0 ? <p className="px-2 py-1 text-ink-soft">No match for “{find}”.</p> : null}
      </div>
    </div>
  );
}
