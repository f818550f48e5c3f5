import type { GridDto } from '@wise-margin/contract';
import { cellReasonWords, figureFormat, figureText, isFigureColumn, reportCellText, shownFavor } from '@wise-margin/presentation';

import { escaped } from '../../formats/page-svg.ts';
import type { WholeReport } from '../../ledger/index.ts';
import type { ExportedStatement } from '../../statements/index.ts';
import type { ContentBlock, FilledSection, PackContent, TextRun } from '../content/content.ts';
import { chartDrawings } from './chart-drawings.ts';
import { titleOf } from './pack-pdf.ts';

/** A pack as one page that loads nothing: readable on a phone, tables scroll within themselves. */
export function packHtml(content: PackContent): string {
  const sections = content.sections.filter(({ leftOut }) => leftOut === '');
  const title = escaped(titleOf(content));
  return `<!doctype html>
<html lang="en-US"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title}</title><style>${STYLE}</style></head><body>
<main>${sections.map((section) => sectionHtml(section, { content, sections })).join('\n')}</main>
<footer><p>${escaped(content.company)} · ${title} · ${escaped(content.stateWords)}</p>${
    content.fingerprint === '' ? '' : `<p>Fingerprint ${escaped(content.fingerprint)}</p>`
  }</footer></body></html>
`;
}

const STYLE = `
:root{--ink:#1e2833;--soft:#5e5a50;--hairline:#dcd4c4;--paper:#f6f2e9;--sheet:#fffdf8;--copper:#97491b;--pine:#1c664d;--brick:#a1302a}
*{box-sizing:border-box}body{margin:0;background:var(--paper);color:var(--ink);font:16px/1.5 'Source Sans 3','Segoe UI',Roboto,Arial,sans-serif}
main{max-width:1100px;margin:0 auto}section{background:var(--sheet);border:1px solid var(--hairline);margin:12px;padding:20px 24px}
h1,h2,h3,.text{font-family:'Source Serif 4',Georgia,serif}h1{font-size:34px;line-height:1.15;margin:.2em 0}h2{font-size:22px;margin:0 0 2px}h3{font-size:18px;margin:14px 0 4px}h3.sub{font-size:16px;margin:12px 0 2px}
.date{color:var(--copper);font-weight:600;font-size:14px;margin:0 0 8px}.soft{color:var(--soft);font-size:14px}.text p{max-width:68ch}
.table{overflow-x:auto;margin:8px 0}.table:focus{outline:2px solid var(--copper)}
table{border-collapse:collapse;font-size:14px;font-variant-numeric:tabular-nums lining-nums}
th,td{padding:2px 8px;text-align:right;white-space:nowrap;vertical-align:bottom}
th:first-child{text-align:left;position:sticky;left:0;background:var(--sheet);min-width:120px;max-width:46vw;white-space:normal}
td.t{text-align:left}thead th{border-bottom:1px solid var(--ink)}thead .block th{border-bottom:1px solid var(--hairline);text-align:center;font-family:'Source Serif 4',Georgia,serif}
tbody th{font-weight:400}.bold th,.bold td{font-weight:600}.italic th,.italic td{font-style:italic}
td.above{border-top:1px solid var(--ink)}td.below{border-bottom:3px double var(--ink)}
.F{color:var(--pine)}.U{color:var(--brick)}.nm{color:var(--soft)}
.charts{display:grid;grid-template-columns:repeat(auto-fill,minmax(260px,1fr));gap:18px}.charts svg,.bridge svg{width:100%;height:auto}
.bridge{overflow-x:auto}.cover{padding:64px 24px 40px}.cover img{max-width:180px;max-height:80px}.cover .rule{width:72px;height:3px;background:var(--copper);margin:14px 0}
ol.contents{columns:2;padding-left:20px}ol.contents a,.soft a{color:var(--copper)}footer{max-width:1100px;margin:0 auto;padding:8px 24px 40px;color:var(--soft);font-size:13px}footer p{margin:2px 0}
@media (max-width:640px){section{margin:8px 0;padding:14px;border-width:1px 0}ol.contents{columns:1}h1{font-size:26px}}
@media print{body{background:none}section{border:0;break-inside:auto;break-before:page;margin:0}.table{overflow:visible}}
`.replaceAll('\n', '');

function sectionHtml(
  section: FilledSection,
  { content, sections }: { readonly content: PackContent; readonly sections: readonly FilledSection[] },
): string {
  const { id, kind, title, dateWords, blocks, notes } = section;
  if (kind === 'cover') return coverHtml(section, content);
  const contents = sections
    .filter((each) => each.kind !== 'cover' && each.kind !== 'contents')
    .map(
      (each) =>
        `<li><a href="#${each.id}">${escaped(each.title)}</a>${each.dateWords === '' ? '' : ` <span class="soft">${escaped(each.dateWords)}</span>`}</li>`,
    );
  const body =
    kind === 'contents'
      ? `<ol class="contents">${contents.join('')}</ol>`
      : blocks.map((block, at) => blockHtml(block, at === 0 ? `${title}, table` : `${title}, table ${at + 1}`)).join('\n');
  return `<section id="${id}" aria-labelledby="${id}-title"><h2 id="${id}-title">${escaped(title)}</h2>${
    dateWords === '' ? '' : `<p class="date">${escaped(dateWords)}</p>`
  }${body}${notes.map((note) => `<p class="soft"><em>${escaped(note)}</em></p>`).join('')}</section>`;
}

function coverHtml({ id, title, cover }: FilledSection, { company, monthWords, slice, stateWords, logo }: PackContent): string {
  const picture = logo ? `<img alt="Logo of ${escaped(company)}" src="data:${logo.type};base64,${logo.base64}">` : '';
  const month = slice === '' ? monthWords : `${slice}, ${monthWords}`;
  const lines = [cover?.subtitle ?? '', cover?.preparedBy ? `Prepared by ${cover.preparedBy}` : '', stateWords].filter(
    (text) => text !== '',
  );
  return `<section id="${id}" class="cover" aria-labelledby="${id}-title">${picture}<p class="soft">${escaped(company)}</p><h1 id="${id}-title">${escaped(title)}</h1><div class="rule"></div><p class="text"><strong>${escaped(month)}</strong></p>${lines
    .map((text) => `<p class="soft">${escaped(text)}</p>`)
    .join('')}</section>`;
}

function blockHtml(block: ContentBlock, title: string): string {
  switch (block.kind) {
    case 'paragraph': {
      const words = (block.label === '' ? '' : `${escaped(block.label)} `) + block.runs.map(runHtml).join('');
      if (block.style === 'heading') return `<h3>${words}</h3>`;
      if (block.style === 'subheading') return `<h3 class="sub">${words}</h3>`;
      if (block.style === 'soft') return `<p class="soft">${words}</p>`;
      return `<div class="text"><p${block.depth > 0 ? ` style="margin:2px 0 2px ${block.depth * 18}px"` : ''}>${words}</p></div>`;
    }
    case 'statement':
      return statementHtml(block.statement, title);
    case 'report':
      return reportHtml(block.report, title);
    case 'charts':
    case 'bridge': {
      const drawn = chartDrawings(block).map(({ svg }) => svg);
      const legend = block.kind === 'charts' ? '<p class="soft">Solid: actual. Outlined: budget. Grey: prior year.</p>' : '';
      return `<div class="${block.kind}">${drawn.join('')}</div>${legend}`;
    }
  }
}

function runHtml({ text, bold, italic }: TextRun): string {
  const words = escaped(text).replaceAll('\n', '<br>');
  const strong = bold ? `<strong>${words}</strong>` : words;
  return italic ? `<em>${strong}</em>` : strong;
}

const tableHtml = (label: string, inner: string): string =>
  `<div class="table" tabindex="0" role="region" aria-label="${escaped(label)}"><table>${inner}</table></div>`;

function statementHtml(statement: ExportedStatement, title: string): string {
  const { dto, lines, exponent, signed, currencySign } = statement;
  const caption = statement.title.slice(2).map(escaped).join('<br>');
  const head = `<thead><tr class="block"><td></td>${dto.blocks
    .map(({ heading }, block) => ({ heading, count: dto.columns.filter((column) => column.block === block).length }))
    .filter(({ count }) => count > 0)
    .map(({ heading, count }) => `<th scope="colgroup" colspan="${count}">${escaped(heading)}</th>`)
    .join(
      '',
    )}</tr><tr><th scope="col">Line</th>${dto.columns.map(({ heading }) => `<th scope="col">${escaped(heading)}</th>`).join('')}</tr></thead>`;
  const rows = lines.map(({ line, index }) => {
    const emphasis = line.kind === 'section' ? 'bold' : (line.emphasis ?? '');
    const name = line.account ? `${line.account} ${line.name}` : line.name;
    const cells = dto.columns.map((_, position) => {
      const cell = dto.cells[index]![position]!;
      const text = figureText(
        cell,
        figureFormat(dto, position, { exponent, sign: signed.has(line.key) ? currencySign : '', isFormula: line.kind === 'formula' }),
      );
      return cellHtml(cell, { text, line });
    });
    return `<tr class="${emphasis}"><th scope="row" style="padding-left:${8 + line.depth * 12}px">${escaped(name)}</th>${cells.join('')}</tr>`;
  });
  const notes = dto.head.footnotes.map((text) => `<p class="soft">${escaped(text)}</p>`).join('');
  return `${caption === '' ? '' : `<p class="soft">${caption}</p>`}${tableHtml(title, `${head}<tbody>${rows.join('')}</tbody>`)}${notes}`;
}

function cellHtml(
  cell: GridDto['cells'][number][number],
  { text, line }: { readonly text: string; readonly line: GridDto['lines'][number] },
): string {
  const favor = shownFavor(cell, text);
  const hasRule = line.rule !== null && cell.kind !== 'blank';
  const names = [
    hasRule && line.rule?.above ? 'above' : '',
    hasRule && line.rule?.below ? 'below' : '',
    cell.kind === 'notMeaningful' ? 'nm' : '',
  ].filter((name) => name !== '');
  const reason = cell.kind === 'notMeaningful' ? ` title="${escaped(cellReasonWords(cell))}"` : '';
  return `<td${names.length === 0 ? '' : ` class="${names.join(' ')}"`}${reason}>${escaped(text)}${favor ? ` <span class="${favor}">${favor}</span>` : ''}</td>`;
}

function reportHtml(report: WholeReport, title: string): string {
  const said = [report.words.join('; '), ...report.notes.map(({ text }) => text)].map(escaped).join('<br>');
  const head = report.columns.map(({ heading }) => `<th scope="col">${escaped(heading)}</th>`).join('');
  const rows = report.rows.map(({ kind, cells }) => {
    const [first, ...others] = report.columns.map((column, at) => reportCellText(cells[at]!, column, report));
    const rule = kind === 'total' ? 'above below' : kind === 'subtotal' ? 'above' : '';
    const written = others.map((text, at) => {
      const isFigure = isFigureColumn(report.columns[at + 1]!);
      return `<td class="${isFigure ? (text === '' ? '' : rule) : 't'}">${escaped(text)}</td>`;
    });
    return `<tr class="${kind === 'line' ? '' : 'bold'}"><th scope="row">${escaped(first!)}</th>${written.join('')}</tr>`;
  });
  return `<p class="soft">${said}</p>${tableHtml(title, `<thead><tr>${head}</tr></thead><tbody>${rows.join('')}</tbody>`)}`;
}
