import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type CompanyDto, type DisplayChoices, displayChoicesOf, type RunChoices } from '@wise-margin/contract';
import { DEFAULT_DISPLAY } from '@wise-margin/core';

import { sendDelete, sendForm } from '../../api/client.ts';
import { useCompany } from '../../data/company.ts';
import { UNITS } from '../../ui/units.ts';
import { DisplayPanel } from '../display-panel.tsx';
import { FiltersPanel } from '../filters-panel.tsx';
import { Field, Select } from './field.tsx';
import { FieldText } from './field-text.tsx';
import { TextArea } from './text-input.tsx';
import { PAGE_FIELDS, textWithFields, textWithWords } from './tokens.ts';

/** Titles and footnotes of a view, how its amounts are written, and what the view is limited to until other choices are made. */
export function PagePanel({
  name,
  display,
  choices,
  hasSides,
  changeDisplay,
  changeChoices,
}: {
  readonly name: string;
  readonly display: DisplayChoices;
  readonly choices: RunChoices;
  readonly hasSides: boolean;
  readonly changeDisplay: (next: (display: DisplayChoices) => DisplayChoices) => void;
  readonly changeChoices: (next: (choices: RunChoices) => RunChoices) => void;
}) {
  const company = useCompany();
  const whole = { ...DEFAULT_DISPLAY, ...display };
  const set = (part: DisplayChoices) => changeDisplay((before) => ({ ...before, ...part }));
  return (
    <div>
      <FieldText label="Title" value={whole.title} fields={PAGE_FIELDS} placeholder={name} commit={(title) => set({ title })} />
      <FieldText label="Subtitle" value={whole.subtitle} fields={PAGE_FIELDS} commit={(subtitle) => set({ subtitle })} />
      <Field label="Footnotes" hint="One per line">
        <TextArea
          value={whole.footnotes.map(textWithWords).join('\n')}
          commit={(text) =>
            set({
              footnotes: textWithFields(text)
                .split('\n')
                .map((line) => line.trim())
                .filter((line) => line !== ''),
            })
          }
        />
      </Field>
      <LogoField company={company} />
      <h2 className="mt-4 border-b border-hairline pb-1 font-serif text-[15px] font-semibold">Display</h2>
      <Field label="Units">
        <Select value={whole.unit} options={UNITS} choose={(unit) => set({ unit })} />
      </Field>
      <div className="mt-2 text-[13px]">
        <DisplayPanel
          display={whole}
          hasSides={hasSides}
          logo={company.logo}
          choose={(which, value) => set(displayChoicesOf({ [which]: value }))}
        />
      </div>
      <h2 className="mt-4 border-b border-hairline pb-1 font-serif text-[15px] font-semibold">Limit to</h2>
      <div className="mt-2 text-[13px]">
        <FiltersPanel
          filter={choices.filter ?? {}}
          accounts={choices.accounts ?? ''}
          drafts={choices.drafts ?? false}
          setFilter={(dimension, values) =>
            changeChoices(({ filter, ...rest }) => {
              const { [dimension]: _before, ...others } = filter ?? {};
              return { ...rest, filter: values.length === 0 ? others : { ...others, [dimension]: [...values] } };
            })
          }
          setAccounts={(accounts) => changeChoices((before) => ({ ...before, accounts }))}
          setDrafts={(drafts) => changeChoices((before) => ({ ...before, drafts }))}
        />
      </div>
    </div>
  );
}

/** The company's logo: one for all of its views, each of which shows it or not. */
function LogoField({ company }: { readonly company: CompanyDto }) {
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] === 'company' });
  const put = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.set('logo', file);
      return sendForm<CompanyDto>(`/companies/${company.id}/logo`, form, 'PUT');
    },
    onSuccess: refresh,
  });
  const remove = useMutation({ mutationFn: () => sendDelete(`/companies/${company.id}/logo`), onSuccess: refresh });
  const failure = put.error ?? remove.error;
  return (
    <div className="mt-2 text-[13px]">
      <label className="block text-ink-soft">
        Company logo, PNG or JPEG up to 500 kB
        <input
          type="file"
          accept="image/png,image/jpeg"
          className="mt-0.5 block w-full text-ink file:mr-2 file:rounded file:border file:border-hairline file:bg-sheet file:px-2 file:py-0.5 file:font-semibold"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) put.mutate(file);
          }}
        />
      </label>
      {failure ? (
        <p role="alert" className="text-brick">
          {failure.message}
        </p>
      ) : null}
      {company.logo === null ? null : (
        <div className="mt-1 flex items-center gap-3">
          <img src={company.logo} alt={`Logo of ${company.name}`} className="max-h-10 max-w-32" />
          <button type="button" className="link" onClick={() => remove.mutate()}>
            Remove logo
          </button>
        </div>
      )}
    </div>
  );
}
