import type { ReadingSection, SharedPackDto } from '@wise-margin/contract';
import { ChevronLeft, ChevronRight, Download, Maximize } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';

import { ApiProblem } from '../api/client.ts';
import { sharedFile, useSharedPack } from '../data/use-shares.ts';
import { Empty, Failure, Loading } from '../ui/states.tsx';
import { useKeys } from '../ui/use-keys.ts';
import { useSearch } from '../ui/use-search.ts';
import { ReadingBlocks } from './reading-blocks.tsx';
import { SharedFigure } from './shared-figure.tsx';

/** An issued pack for whoever has its link: on a phone, or in a meeting room, one section after another. */
export default function SharedPage() {
  const token = useParams()['token'] ?? '';
  const [search] = useSearch();
  const shared = useSharedPack(token, search.get('slice') ?? undefined);
  useEffect(() => {
    document.title = shared.data ? `${shared.data.reading.title} · ${shared.data.company}` : 'Shared pack';
  }, [shared.data]);
  if (shared.isError) {
    const ended = shared.error instanceof ApiProblem && [404, 410].includes(shared.error.problem.status);
    return (
      <main className="flex min-h-dvh">
        <h1 className="sr-only">Shared pack</h1>
        {ended ? (
          <Empty title="This link does not open">{shared.error.message}</Empty>
        ) : (
          <Failure error={shared.error} retry={() => void shared.refetch()} />
        )}
      </main>
    );
  }
  if (!shared.data)
    return (
      <main>
        <h1 className="sr-only">Shared pack</h1>
        <Loading what="the pack" />
      </main>
    );
  if (shared.data.reading.sections.length === 0)
    return (
      <main className="flex min-h-dvh">
        <h1 className="sr-only">Shared pack</h1>
        <Empty title="No sections">{shared.data.name} was issued without a section to show. Ask for another issue of it.</Empty>
      </main>
    );
  return <Shared token={token} pack={shared.data} />;
}

function Shared({ token, pack }: { readonly token: string; readonly pack: SharedPackDto }) {
  const [search, setSearch] = useSearch();
  const { sections } = pack.reading;
  const at = Math.max(
    0,
    sections.findIndex(({ id }) => id === search.get('section')),
  );
  const section = sections[at]!;
  const [figure, setFigure] = useState<{ readonly line: string; readonly column: string } | null>(null);
  const content = useRef<HTMLElement>(null);
  const opener = useRef<HTMLElement | null>(null);
  const go = (to: number) => {
    const next = sections[Math.min(sections.length - 1, Math.max(0, to))]!;
    setFigure(null);
    setSearch((before) => before.set('section', next.id), { replace: true });
    content.current?.scrollTo({ top: 0 });
  };
  const closeFigure = () => {
    setFigure(null);
    opener.current?.focus();
  };
  useKeys({
    ArrowRight: () => go(at + 1),
    ArrowLeft: () => go(at - 1),
    PageDown: () => go(at + 1),
    PageUp: () => go(at - 1),
    Home: () => go(0),
    End: () => go(sections.length - 1),
    Escape: () => figure && closeFigure(),
  });
  return (
    <div className="flex h-dvh flex-col">
      <header className="flex shrink-0 items-center gap-3 border-b border-hairline px-5 py-2 narrow:px-3">
        <div className="min-w-0 flex-1">
          <p className="truncate font-serif text-[19px] leading-6 font-semibold narrow:text-[16px]">{pack.name}</p>
          <p className="truncate text-[13px] text-ink-soft">
            {pack.company}, {pack.reading.monthWords}
          </p>
        </div>
        {pack.slices.length > 1 ? (
          <select
            aria-label="Report for"
            className="field py-0.5 text-[13px]"
            value={pack.slice}
            onChange={(event) => setSearch((before) => before.set('slice', event.target.value), { replace: true })}
          >
            {pack.slices.map((slice) => (
              <option key={slice}>{slice}</option>
            ))}
          </select>
        ) : null}
        <a className="button" href={sharedFile(token, pack.slice)} download>
          <Download size={15} aria-hidden="true" /> PDF
        </a>
        {document.fullscreenEnabled ? (
          <button
            type="button"
            className="button narrow:hidden"
            onClick={() => void (document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen())}
          >
            <Maximize size={15} aria-hidden="true" /> Full screen
          </button>
        ) : null}
      </header>
      <div className="flex min-h-0 flex-1">
        <main
          ref={content}
          tabIndex={-1}
          className="min-w-0 flex-1 overflow-y-auto px-5 py-5 text-[17px] leading-relaxed outline-none narrow:px-3 narrow:py-3 narrow:text-[15px] 2xl:text-[20px]"
        >
          <Section
            key={section.id}
            section={section}
            pack={pack}
            chosen={figure}
            open={(id) => go(sections.findIndex((each) => each.id === id))}
            follow={
              pack.drillDown && section.drillsDown
                ? (place, button) => {
                    opener.current = button;
                    setFigure(place);
                  }
                : null
            }
          />
        </main>
        {figure ? <SharedFigure token={token} place={{ slice: pack.slice, section: section.id, ...figure }} close={closeFigure} /> : null}
      </div>
      <nav aria-label="Sections" className="flex shrink-0 items-center gap-2 border-t border-hairline px-5 py-2 narrow:px-3">
        <button type="button" className="button min-h-10" disabled={at === 0} onClick={() => go(at - 1)}>
          <ChevronLeft size={17} aria-hidden="true" /> <span className="narrow:sr-only">Previous</span>
        </button>
        <select
          aria-label="Section"
          className="field min-w-0 flex-1 text-[14px]"
          value={section.id}
          onChange={(event) => go(sections.findIndex(({ id }) => id === event.target.value))}
        >
          {sections.map(({ id, title }, index) => (
            <option key={id} value={id}>
              {index + 1} of {sections.length}: {title}
            </option>
          ))}
        </select>
        <button type="button" className="button min-h-10" disabled={at === sections.length - 1} onClick={() => go(at + 1)}>
          <span className="narrow:sr-only">Next</span> <ChevronRight size={17} aria-hidden="true" />
        </button>
      </nav>
    </div>
  );
}

function Section({
  section,
  pack,
  chosen,
  open,
  follow,
}: {
  readonly section: ReadingSection;
  readonly pack: SharedPackDto;
  readonly chosen: { readonly line: string; readonly column: string } | null;
  readonly open: (id: string) => void;
  readonly follow: ((place: { readonly line: string; readonly column: string }, button: HTMLElement) => void) | null;
}) {
  const { kind, title, dateWords, lines, blocks, notes } = section;
  const { reading } = pack;
  if (kind === 'cover')
    return (
      <div className="mx-auto max-w-3xl py-10 narrow:py-4">
        {reading.logo ? <img src={reading.logo} alt={`Logo of ${reading.company}`} className="mb-4 max-h-20 max-w-48" /> : null}
        <p className="text-ink-soft">{reading.company}</p>
        <h1 className="mt-1 font-serif text-[1.9em] leading-tight font-semibold">{title}</h1>
        <div className="my-4 h-[3px] w-[72px] bg-copper" />
        <p className="font-serif font-semibold">{reading.monthWords}</p>
        {lines.map((line) => (
          <p key={line} className="text-[0.85em] text-ink-soft">
            {line}
          </p>
        ))}
        <p className="mt-6 text-[13px] text-ink-soft">Checksum {reading.fingerprint}</p>
      </div>
    );
  return (
    <div className="mx-auto max-w-6xl">
      <h1 className="font-serif text-[1.35em] leading-tight font-semibold">{title}</h1>
      {dateWords === '' ? null : <p className="mb-2 text-[0.85em] font-semibold text-copper">{dateWords}</p>}
      {kind === 'contents' ? (
        <ol className="mt-3 list-decimal pl-6">
          {reading.sections
            .filter((each) => each.kind === 'body')
            .map((each) => (
              <li key={each.id}>
                <button type="button" className="link text-left" onClick={() => open(each.id)}>
                  {each.title}
                </button>{' '}
                <span className="text-[0.8em] text-ink-soft">{each.dateWords}</span>
              </li>
            ))}
        </ol>
      ) : (
        <ReadingBlocks title={title} blocks={blocks} chosen={chosen} follow={follow} />
      )}
      {notes.map((note) => (
        <p key={note} className="mt-1 text-[0.85em] text-ink-soft italic">
          {note}
        </p>
      ))}
    </div>
  );
}
