import type { PackPageDto } from '@wise-margin/contract';

import type { Recording } from '../../formats/page-recorder.ts';
import { COPPER, HAIRLINE, INK, MARGIN, SOFT } from '../../formats/pdf-type.ts';
import { wrapped } from '../../formats/pdf-writer.ts';
import { refused } from '../../http/problem.ts';
import type { ContentBlock, FilledSection, PackContent } from '../content/content.ts';
import { bridgeHeight, drawBridge } from './bridge-chart.ts';
import { drawMonthChart, drawSwatch } from './month-chart.ts';
import { PageFlow } from './page-flow.ts';
import { drawParagraph } from './paragraphs.ts';
import { ReportBlock } from './report-block.ts';
import { fontFor } from './serif.ts';
import { StatementBlock } from './statement-block.ts';

export const MOST_PAGES = 500;
const SOFT_STYLE = { font: 'sans', size: 8.5, color: SOFT } as const;
const FOOT_STYLE = { font: 'sans', size: 7.5, color: SOFT } as const;
const LOGO = { width: 150, height: 60 };
// what a section that shares a page needs below its title
const LEAST_ROOM = 150;
const CHART = { height: 128, gap: 18, figures: 112 };
const CONTENTS_LINE = 20;

/** The pages of a pack, with where each section begins. */
export type PackPages = Recording & {
  readonly regions: PageFlow['regions'];
  /** by section: the page it begins on, from 0 */
  readonly starts: ReadonlyMap<string, number>;
};

/** Lays a pack out on pages, as they are shown, printed and frozen. @throws ProblemError 422 past the most pages, with the longest section */
export function packPages(content: PackContent): PackPages {
  return new PackLayout(content).pages();
}

type Drawn = { readonly block: ContentBlock; readonly needsLandscape: boolean; readonly draw: (key: string) => void };

class PackLayout {
  readonly #content: PackContent;
  readonly #flow = new PageFlow();
  readonly #starts = new Map<string, number>();
  readonly #contents: { readonly page: number; readonly y: number; readonly section: FilledSection }[] = [];

  constructor(content: PackContent) {
    this.#content = content;
  }

  pages(): PackPages {
    const shown = this.#content.sections.filter(({ omissionReason }) => omissionReason === '');
    for (const section of shown) {
      this.#drawSection(section, shown);
      if (this.#flow.pageCount > MOST_PAGES) {
        const from = this.#starts.get(section.id)! + 1;
        throw refused(
          `The pack has more than ${MOST_PAGES} pages; ${section.title} begins on page ${from} and does not end before. Hide the section or limit what it shows.`,
          'sections',
        );
      }
    }
    if (shown.length === 0) {
      this.#flow.newPage();
      drawParagraph(this.#flow, {
        kind: 'paragraph',
        style: 'soft',
        label: '',
        depth: 0,
        runs: [{ text: 'No section of the pack is included.', bold: false, italic: false }],
      });
    }
    this.#drawContents();
    this.#drawFeet();
    const { recorder, regions } = this.#flow;
    return { pages: recorder.pages, tags: recorder.tags, regions, starts: this.#starts };
  }

  #drawSection(section: FilledSection, all: readonly FilledSection[]): void {
    const flow = this.#flow;
    const drawn = section.blocks.map((block) => this.#measured(block));
    const needsLandscape = drawn.some((each) => each.needsLandscape);
    // what shares a page keeps to how it lies, unless it does not fit
    const isPortrait =
      section.orientation === 'auto'
        ? section.startsPage || flow.pageCount === 0
          ? !needsLandscape
          : flow.isPortrait && !needsLandscape
        : section.orientation === 'portrait';
    const isCover = section.kind === 'cover';
    if (flow.pageCount === 0 || section.startsPage || isCover || isPortrait !== flow.isPortrait || flow.left < LEAST_ROOM)
      flow.newPage(isPortrait);
    else flow.y += 8;
    this.#starts.set(section.id, flow.pageCount - 1);
    const draw = (): void => {
      if (isCover) return this.#drawCover(section);
      this.#drawTitle(section);
      if (section.kind === 'contents') return this.#reserveContents(all);
      drawn.forEach((each, at) => each.draw(`${section.id}/${at}`));
      for (const note of section.notes)
        drawParagraph(flow, { kind: 'paragraph', style: 'soft', label: '', depth: 0, runs: [{ text: note, bold: false, italic: true }] });
    };
    const runningHead = isCover ? null : (): void => this.#drawRunningHead(section);
    flow.recorder.tagged({ role: 'Sect', key: `section ${section.id}` }, () => flow.section(section.id, runningHead, draw));
  }

  #measured(block: ContentBlock): Drawn {
    const flow = this.#flow;
    switch (block.kind) {
      case 'paragraph':
        return { block, needsLandscape: false, draw: () => drawParagraph(flow, block) };
      case 'statement': {
        const statement = new StatementBlock(flow, block.statement);
        return {
          block,
          needsLandscape: statement.needsLandscape,
          draw: (key) => {
            this.#drawSoft(block.statement.title.slice(2));
            statement.draw(key);
            this.#drawSoft(block.statement.dto.head.footnotes);
          },
        };
      }
      case 'report': {
        const report = new ReportBlock(flow, block.report);
        return { block, needsLandscape: report.needsLandscape, draw: (key) => report.draw(key) };
      }
      case 'charts':
        return { block, needsLandscape: false, draw: () => this.#drawCharts(block) };
      case 'bridge':
        return {
          block,
          needsLandscape: false,
          draw: () => {
            flow.ensure(bridgeHeight(block.bridge));
            drawBridge(flow.recorder, block.bridge, { x: MARGIN, y: flow.y, width: Math.min(flow.room, 560) });
            flow.y += bridgeHeight(block.bridge) + 8;
          },
        };
    }
  }

  #drawTitle({ title, dateWords }: FilledSection): void {
    const flow = this.#flow;
    const { recorder } = flow;
    const font = fontFor(title, 'serifBold');
    recorder.tagged({ role: 'H1' }, () => {
      for (const text of wrapped(recorder, title, { font, size: 16, width: flow.room })) {
        recorder.text(text, { x: MARGIN, y: flow.y + 15 }, { font, size: 16, color: INK });
        flow.y += 20;
      }
    });
    if (dateWords !== '')
      recorder.tagged({ role: 'P' }, () =>
        recorder.text(dateWords, { x: MARGIN, y: flow.y + 9 }, { font: 'sansBold', size: 9, color: COPPER }),
      );
    flow.y += dateWords === '' ? 6 : 16;
  }

  #drawRunningHead({ title, dateWords }: FilledSection): void {
    const flow = this.#flow;
    const text = `${title}${dateWords === '' ? '' : `, ${dateWords}`}, continued`;
    flow.recorder.tagged({ role: 'Artifact' }, () => flow.recorder.text(text, { x: MARGIN, y: flow.y + 4 }, SOFT_STYLE));
    flow.y += 16;
  }

  /** Short lines about what is above or below them. */
  #drawSoft(lines: readonly string[]): void {
    const flow = this.#flow;
    for (const text of lines.flatMap((each) => wrapped(flow.recorder, each, { ...SOFT_STYLE, width: flow.room }))) {
      flow.ensure(11);
      flow.recorder.tagged({ role: 'P' }, () => flow.recorder.text(text, { x: MARGIN, y: flow.y + 8 }, SOFT_STYLE));
      flow.y += 11;
    }
    if (lines.length > 0) flow.y += 4;
  }

  #drawCharts({ charts, withFigures }: Extract<ContentBlock, { readonly kind: 'charts' }>): void {
    const flow = this.#flow;
    const perRow = withFigures ? 3 : 2;
    const height = withFigures ? CHART.figures : CHART.height;
    const width = (flow.room - (perRow - 1) * CHART.gap) / perRow;
    for (let first = 0; first < charts.length; first += perRow) {
      flow.ensure(height + 14);
      charts.slice(first, first + perRow).forEach((chart, at) => {
        const box = { x: MARGIN + at * (width + CHART.gap), y: flow.y, width, height };
        drawMonthChart(flow.recorder, chart, { box, withFigures });
      });
      flow.y += height + 12;
    }
    this.#drawLegend();
  }

  #drawLegend(): void {
    const { recorder } = this.#flow;
    let x = MARGIN;
    recorder.tagged({ role: 'P' }, () => {
      for (const [scenario, name] of [
        ['actual', 'Actual'],
        ['budget', 'Budget'],
        ['prior', 'Prior year'],
      ] as const) {
        drawSwatch(recorder, scenario, { x, y: this.#flow.y });
        recorder.text(name, { x: x + 9, y: this.#flow.y + 6 }, FOOT_STYLE);
        x += 22 + recorder.widthOf(name, FOOT_STYLE);
      }
    });
    this.#flow.y += 18;
  }

  #drawCover(section: FilledSection): void {
    const flow = this.#flow;
    const { recorder } = flow;
    const { company, monthWords, stateWords, logo, slice } = this.#content;
    if (logo) recorder.tagged({ role: 'Figure', alt: `Logo of ${company}` }, () => recorder.picture({ x: MARGIN, y: flow.y, ...LOGO }));
    let y = flow.y + 210;
    const write = (
      text: string,
      { size, color, isSerif }: { readonly size: number; readonly color: string; readonly isSerif: boolean },
    ): void => {
      const font = isSerif ? fontFor(text, 'serifBold') : 'sans';
      for (const line of wrapped(recorder, text, { font, size, width: flow.room })) {
        y += size * 1.3;
        recorder.text(line, { x: MARGIN, y }, { font, size, color });
      }
    };
    recorder.tagged({ role: 'P' }, () => write(company, { size: 14, color: SOFT, isSerif: false }));
    recorder.tagged({ role: 'H1' }, () => write(section.title, { size: 30, color: INK, isSerif: true }));
    y += 14;
    recorder.rect({ x: MARGIN, y, width: 64, height: 2 }, { fill: COPPER, stroke: null, weight: 0 });
    y += 10;
    recorder.tagged({ role: 'P' }, () =>
      write(slice === '' ? monthWords : `${slice}, ${monthWords}`, { size: 17, color: INK, isSerif: true }),
    );
    const { subtitle, preparedBy } = section.cover ?? { subtitle: '', preparedBy: '' };
    if (subtitle !== '') recorder.tagged({ role: 'P' }, () => write(subtitle, { size: 11, color: SOFT, isSerif: false }));
    y = flow.bottom - 40;
    if (preparedBy !== '')
      recorder.tagged({ role: 'P' }, () => write(`Prepared by ${preparedBy}`, { size: 10, color: INK, isSerif: false }));
    recorder.tagged({ role: 'P' }, () => write(stateWords, { size: 10, color: COPPER, isSerif: false }));
    flow.y = flow.bottom;
  }

  #reserveContents(all: readonly FilledSection[]): void {
    const flow = this.#flow;
    for (const section of all) {
      if (section.kind === 'cover' || section.kind === 'contents') continue;
      flow.ensure(CONTENTS_LINE);
      this.#contents.push({ page: flow.pageCount - 1, y: flow.y + 13, section });
      flow.y += CONTENTS_LINE;
    }
  }

  #drawContents(): void {
    const { recorder } = this.#flow;
    for (const { page, y, section } of this.#contents)
      recorder.onPage(page, () =>
        recorder.tagged({ role: 'P' }, () => {
          const right = recorder.pages[page]!.width - MARGIN;
          const name = { font: fontFor(section.title, 'serif'), size: 11, color: INK } as const;
          const date = { font: 'sans', size: 9, color: SOFT } as const;
          const number = String(this.#starts.get(section.id)! + 1);
          recorder.text(section.title, { x: MARGIN, y }, name);
          const after = MARGIN + recorder.widthOf(section.title, name) + 8;
          recorder.text(section.dateWords, { x: after, y }, date);
          const from = after + (section.dateWords === '' ? 0 : recorder.widthOf(section.dateWords, date) + 8);
          recorder.line([from, y - 1], [right - 22, y - 1], { weight: 0.4, color: HAIRLINE });
          recorder.text(number, { x: right, y, align: 'right' }, { font: 'sans', size: 11, color: INK });
        }),
      );
  }

  #drawFeet(): void {
    const { recorder } = this.#flow;
    const { company, name, monthWords, slice, stateWords, fingerprint } = this.#content;
    const count = recorder.pages.length;
    const words = [company, name, slice, monthWords].filter((text) => text !== '').join(' · ');
    recorder.pages.forEach(({ width, height }, index) =>
      recorder.onPage(index, () =>
        recorder.tagged({ role: 'Artifact' }, () => {
          const y = height - 24;
          recorder.line([MARGIN, y - 11], [width - MARGIN, y - 11], { weight: 0.4, color: HAIRLINE });
          const [shown] = wrapped(recorder, words, { ...FOOT_STYLE, width: width - 2 * MARGIN - 150 });
          recorder.text(shown!, { x: MARGIN, y }, FOOT_STYLE);
          recorder.text(`${stateWords} · Page ${index + 1} of ${count}`, { x: width - MARGIN, y, align: 'right' }, FOOT_STYLE);
          if (index === count - 1 && fingerprint !== '') recorder.text(`Checksum ${fingerprint}`, { x: MARGIN, y: y + 10 }, FOOT_STYLE);
        }),
      ),
    );
  }
}

/** The pages for the wire: what is drawn, and where each section is. */
export function pageDtos({ pages, regions }: Pick<PackPages, 'pages' | 'regions'>): PackPageDto[] {
  return pages.map(({ width, height, marks }, index) => ({
    width,
    height,
    marks: marks.map(({ mark }) => mark),
    regions: regions.filter(({ page }) => page === index).map(({ section, top, bottom }) => ({ section, top, bottom })),
  }));
}
