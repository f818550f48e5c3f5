import { PACK_FORMATS, type PackDto } from '@wise-margin/contract';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

import { useAsOf, useCompany } from '../data/company.ts';
import { packFileAddress } from '../data/use-packs.ts';
import { DateField } from '../ui/date-field.tsx';
import { momentWords } from '../ui/date-words.ts';
import { FloatingPanel } from '../ui/floating-panel.tsx';
import { PackSettings } from './pack-settings.tsx';
import type { PackEditor } from './use-pack-editor.ts';

const FORMATS = { pdf: 'PDF', docx: 'Document (DOCX)', xlsx: 'Spreadsheet (XLSX)', html: 'Web page (HTML)' } as const;

/** What is done with a pack as a whole: its month and meeting, settings, files, state and issue. */
export function PackActions({
  editor,
  month,
  slice,
  scope,
  issue,
}: {
  readonly editor: PackEditor;
  readonly scope: PackDto['scope'];
  readonly month: string;
  readonly slice: string | undefined;
  readonly issue: () => void;
}) {
  const company = useCompany();
  const [, setAsOf] = useAsOf();
  const { monthData, design } = editor;
  const at = company.periods.findIndex(({ key }) => key === month);
  const [before, after] = [company.periods[at - 1], company.periods[at + 1]];
  const state = monthData.data?.state ?? 'draft';
  const last = monthData.data?.issues[0];
  const place = { company: company.id, pack: design.key };
  return (
    <>
      <span role="status" className="text-[13px] text-ink-soft">
        {monthData.change.isPending ? 'Saving…' : monthData.change.isSuccess ? 'Text saved' : ''}
      </span>
      {last ? (
        <Link className="link text-[13px]" title={momentWords(last.at)} to={`/c/${company.id}/packs/${design.key}/${last.id}`}>
          Issue {last.number}
        </Link>
      ) : null}
      <span className="flex items-center">
        <Step
          label={before ? `Previous month, ${before.name}` : 'Previous month'}
          act={before ? () => setAsOf(before.key) : null}
          icon={<ChevronLeft size={16} aria-hidden="true" />}
        />
        <span className="min-w-18 text-center text-[14px] font-semibold">{company.periods[at]?.name}</span>
        <Step
          label={after ? `Next month, ${after.name}` : 'Next month'}
          act={after ? () => setAsOf(after.key) : null}
          icon={<ChevronRight size={16} aria-hidden="true" />}
        />
      </span>
      <label className="flex items-center gap-1.5 text-[13px]">
        <span className="text-ink-soft">Meeting</span>
        <DateField value={monthData.data?.meeting ?? ''} set={(meeting) => editor.changeNow({ meeting: meeting || null })} />
      </label>
      <PackSettings design={design} scope={scope} isChanged={editor.isChanged} set={editor.setDesign} />
      <FloatingPanel label="Export" atRight>
        <ul>
          {PACK_FORMATS.map((format) => (
            <li key={format}>
              <a className="link block py-1" href={packFileAddress(place, { month, format, slice: slice ?? '' })} download>
                {FORMATS[format]}
              </a>
            </li>
          ))}
        </ul>
        {editor.isChanged ? <p className="mt-1 text-ink-soft">Files are of the saved sections. Save your changes first.</p> : null}
      </FloatingPanel>
      {state === 'inReview' ? (
        <button type="button" className="button" onClick={() => setState('draft')}>
          Return to draft
        </button>
      ) : state === 'draft' ? (
        <button type="button" className="button" onClick={() => setState('inReview')}>
          Submit for review
        </button>
      ) : null}
      <button
        type="button"
        className="button button-primary"
        disabled={editor.isChanged}
        title={editor.isChanged ? 'Save your changes first' : ''}
        onClick={issue}
      >
        {last ? 'Reissue…' : 'Issue…'}
      </button>
    </>
  );
  function setState(to: 'draft' | 'inReview'): void {
    editor.changeNow({ state: to });
  }
}

function Step({ label, act, icon }: { readonly label: string; readonly act: (() => void) | null; readonly icon: ReactNode }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={act === null}
      onClick={() => act?.()}
      className="flex h-7 w-6 items-center justify-center hover:bg-wash disabled:opacity-40"
    >
      {icon}
    </button>
  );
}
