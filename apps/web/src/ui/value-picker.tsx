import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { Check, ChevronDown } from 'lucide-react';
import { useMemo, useState } from 'react';

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
  const [find, setFind] = useState('');
  const options = useMemo(() => {
    const wanted = find.toLowerCase();
    return all.filter((value) => nameOf(value).toLowerCase().includes(wanted));
  }, [all, find, nameOf]);
  const words = values.length === 0 ? 'All' : values.length <= 2 ? values.map(nameOf).join(', ') : `${values.length} chosen`;
  return (
    <Combobox multiple immediate value={[...values]} onChange={choose} onClose={() => setFind('')} virtual={{ options }}>
      <div className="relative min-w-0 flex-1">
        <ComboboxInput
          aria-label={label}
          className={`field w-full py-0.5 pr-6 text-[13px] ${values.length > 0 ? 'placeholder:text-ink' : ''}`}
          placeholder={words}
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <ComboboxButton className="absolute inset-y-0 right-0 flex items-center px-1.5" aria-label={`Values of ${label}`}>
          <ChevronDown size={13} aria-hidden="true" />
        </ComboboxButton>
      </div>
      <ComboboxOptions
        anchor={{ to: 'bottom start', gap: 2, padding: 8 }}
        className="z-50 max-h-64! w-64 overflow-y-auto border border-hairline bg-sheet text-[13px] shadow-lg empty:invisible"
      >
        {({ option }: { option: string }) => (
          <ComboboxOption value={option} className="flex w-full items-center gap-1.5 px-2 py-1 data-focus:bg-wash">
            {({ selected }) => (
              <>
                <Check size={13} aria-hidden="true" className={selected ? 'text-copper' : 'invisible'} />
                <span className={`truncate ${selected ? 'font-semibold' : ''}`}>{nameOf(option)}</span>
              </>
            )}
          </ComboboxOption>
        )}
      </ComboboxOptions>
    </Combobox>
  );
}
