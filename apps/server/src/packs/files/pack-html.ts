import type { PackReading, ReadingBlock, ReadingCell, ReadingSection } from '@wise-margin/contract';

import { escaped, marksSvg } from '../../formats/page-svg.ts';
import type { PackContent } from '../content/content.ts';
import { packReading } from './pack-reading.ts';

/** A pack as one page that loads nothing: readable on a phone, tables scroll within themselves. */
export function packHtml(content: PackContent): string {
  const reading = packReading(content);
  const { company, stateWords, fingerprint, sections } = reading;
  const title = escaped(reading.title);
  return `<!doctype html>
<html lang="en-US"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title}</title><style>${STYLE}</style></head><body>
<main>${sections.map((section) => sectionHtml(section, reading)).join('\n')}</main>
<footer><p>${escaped(company)} · ${title} · ${escaped(stateWords)}</p>${
    fingerprint === '' ? '' : `<p>Checksum ${escaped(fingerprint)}</p>`
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

function sectionHtml(section: ReadingSection, reading: PackReading): string {
  const { id, kind, title, dateWords, blocks, notes } = section;
  if (kind === 'cover') return coverHtml(section, reading);
  const contents = reading.sections
    .filter((each) => each.kind === 'body')
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

function coverHtml({ id, title, lines }: ReadingSection, { company, monthWords, logo }: PackReading): string {
  const picture = logo === null ? '' : `<img alt="Logo of ${escaped(company)}" src="${logo}">`;
  return `<section id="${id}" class="cover" aria-labelledby="${id}-title">${picture}<p class="soft">${escaped(company)}</p><h1 id="${id}-title">${escaped(title)}</h1><div class="rule"></div><p class="text"><strong>${escaped(monthWords)}</strong></p>${lines
    .map((text) => `<p class="soft">${escaped(text)}</p>`)
    .join('')}</section>`;
}

function blockHtml(block: ReadingBlock, title: string): string {
  switch (block.kind) {
    case 'paragraph': {
      const words = (block.label === '' ? '' : `${escaped(block.label)} `) + block.runs.map(runHtml).join('');
      if (block.style === 'heading') return `<h3>${words}</h3>`;
      if (block.style === 'subheading') return `<h3 class="sub">${words}</h3>`;
      if (block.style === 'soft') return `<p class="soft">${words}</p>`;
      return `<div class="text"><p${block.depth > 0 ? ` style="margin:2px 0 2px ${block.depth * 18}px"` : ''}>${words}</p></div>`;
    }
    case 'table':
      return tableHtml(block, title);
    case 'charts': {
      const legend = block.legend === '' ? '' : `<p class="soft">${escaped(block.legend)}</p>`;
      return `<div class="${block.isBridge ? 'bridge' : 'charts'}">${block.drawings.map(({ marks, ...size }) => marksSvg(marks, size)).join('')}</div>${legend}`;
    }
  }
}

function runHtml({ text, bold, italic }: { readonly text: string; readonly bold: boolean; readonly italic: boolean }): string {
  const words = escaped(text).replaceAll('\n', '<br>');
  const strong = bold ? `<strong>${words}</strong>` : words;
  return italic ? `<em>${strong}</em>` : strong;
}

function tableHtml({ caption, groups, headings, rows, notes }: Extract<ReadingBlock, { readonly kind: 'table' }>, title: string): string {
  const over = groups.map(({ heading, columns }) => `<th scope="colgroup" colspan="${columns}">${escaped(heading)}</th>`).join('');
  const head = `<thead>${over === '' ? '' : `<tr class="block"><td></td>${over}</tr>`}<tr>${headings
    .map((heading) => `<th scope="col">${escaped(heading)}</th>`)
    .join('')}</tr></thead>`;
  const body = rows.map(
    ({ name, depth, emphasis, cells }) =>
      `<tr class="${emphasis}"><th scope="row" style="padding-left:${8 + depth * 12}px">${escaped(name)}</th>${cells.map(cellHtml).join('')}</tr>`,
  );
  const said = caption.length === 0 ? '' : `<p class="soft">${caption.map(escaped).join('<br>')}</p>`;
  const table = `<div class="table" tabindex="0" role="region" aria-label="${escaped(title)}"><table>${head}<tbody>${body.join('')}</tbody></table></div>`;
  return `${said}${table}${notes.map((text) => `<p class="soft">${escaped(text)}</p>`).join('')}`;
}

function cellHtml({ text, isFigure, ruleAbove, ruleBelow, favor, reason }: ReadingCell): string {
  const names = [ruleAbove ? 'above' : '', ruleBelow ? 'below' : '', reason === '' ? '' : 'nm', isFigure ? '' : 't'].filter(
    (name) => name !== '',
  );
  const title = reason === '' ? '' : ` title="${escaped(reason)}"`;
  return `<td${names.length === 0 ? '' : ` class="${names.join(' ')}"`}${title}>${escaped(text)}${favor ? ` <span class="${favor}">${favor}</span>` : ''}</td>`;
}
