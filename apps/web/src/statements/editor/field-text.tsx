import { ActionSelect } from './action-select.tsx';
import { Field } from './field.tsx';
import { TextInput } from './text-input.tsx';
import { fieldWords, shownField, type TextField, textWithFields, textWithWords } from './tokens.ts';

/** A text that may hold fields, such as the period: they are shown as words, and added from a list. */
export function FieldText({
  label,
  value,
  fields,
  commit,
  hint,
  placeholder,
  className = '',
  autoFocus = false,
}: {
  readonly label: string;
  readonly value: string;
  readonly fields: readonly TextField[];
  readonly commit: (text: string) => void;
  readonly hint?: string;
  readonly placeholder?: string;
  readonly className?: string;
  readonly autoFocus?: boolean;
}) {
  const shown = textWithWords(value);
  return (
    <div className="flex items-end gap-1">
      <div className="min-w-0 flex-1">
        <Field label={label} hint={hint}>
          <TextInput
            value={shown}
            {...(placeholder === undefined ? {} : { placeholder })}
            className={className}
            maxLength={200}
            autoFocus={autoFocus}
            commit={(text) => commit(textWithFields(text))}
          />
        </Field>
      </div>
      {fields.length === 0 ? null : (
        <ActionSelect
          label={`Insert into ${label.toLowerCase()}`}
          prompt="Insert"
          className={`field w-24 py-0.5 text-[13px] ${hint ? 'mb-5' : ''}`}
          options={fields.map((field) => [field, fieldWords(field)])}
          act={(value) => {
            const field = shownField(value as TextField);
            commit(textWithFields(shown === '' ? field : `${shown.trimEnd()} ${field}`));
          }}
        />
      )}
    </div>
  );
}
