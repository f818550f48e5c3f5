import { useId, useState } from 'react';

/** Accounts typed as numbers and ranges, such as `4000-4999, 6100`; empty takes all. */
export function AccountsField({ accounts, commit }: { readonly accounts: string; readonly commit: (text: string) => void }) {
  const [text, setText] = useState(accounts);
  const id = useId();
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        commit(text);
      }}
    >
      <label htmlFor={id} className="text-ink-soft">
        Accounts
      </label>
      <div className="flex gap-2">
        <input
          id={id}
          className="field min-w-0 flex-1 py-0.5 text-[13px]"
          placeholder="All; or such as 4000-4999, 6100"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => text !== accounts && commit(text)}
        />
        <button type="submit" className="button">
          Limit to these
        </button>
      </div>
    </form>
  );
}
