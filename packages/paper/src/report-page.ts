import { svgAddress } from './loss-trend.ts';
import type { Report, ReportBlock } from './report.ts';

export interface PageFigure {
  /** Beside the page. */
  readonly file: string;
  readonly words: string;
}

/** A report as one page that any browser shows without a network and without a script; pictures below it. */
export function reportPage(report: Report, figures: readonly PageFigure[] = []): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${text(report.title)}</title><style>
body { font: 16px/1.4 sans-serif; max-width: 62rem; margin: 2rem auto; padding: 0 1rem; color: #1b1f24 }
table { border-collapse: collapse; width: 100%; margin: .4rem 0 1.4rem } td, th { text-align: left; vertical-align: top;
padding: .3rem .8rem .3rem 0; border-bottom: 1px solid #ccc } .number { text-align: right } img { max-width: 12rem } img.drawing { max-width: 100% }
</style></head><body>
<h1>${text(report.title)}</h1>
${report.facts.map((fact) => `<p>${text(fact)}</p>`).join('\n')}
${report.sections.map(({ heading, blocks }) => `<h2>${text(heading)}</h2>\n${blocks.map(blockOf).join('\n')}`).join('\n')}
${figures.map(({ file, words }) => `<figure><img src="${text(file)}" alt=""><figcaption>${text(words)}</figcaption></figure>`).join('\n')}
</body></html>
`;
}

function blockOf(block: ReportBlock): string {
  switch (block.kind) {
    case 'text':
      return `<p>${text(block.text)}</p>`;
    case 'list':
      return `<ul>${block.items.map((item) => `<li>${text(item)}</li>`).join('')}</ul>`;
    case 'table': {
      const line = (tag: 'th' | 'td', row: readonly string[]): string =>
        `<tr>${row
          .map(
            (cell, i) =>
              `<${tag}${block.numbers.includes(i) ? ' class="number"' : ''}>${text(cell)}</${tag}>`,
          )
          .join('')}</tr>`;
      return `<table>${line('th', block.heads)}${block.rows.map((row) => line('td', row)).join('\n')}</table>`;
    }
    case 'drawing':
      return `<figure><img class="drawing" src="${text(svgAddress(block.svg))}" alt="${text(block.words)}"></figure>`;
    case 'pictures':
      return block.pictures
        .map(
          ({ src, words }) =>
            `<figure><img src="${text(src)}" alt=""><figcaption>${text(words)}</figcaption></figure>`,
        )
        .join('\n');
    default: {
      const never: never = block;
      return never;
    }
  }
}

const ESCAPES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
const text = (plain: string): string => plain.replace(/[&<>"']/g, (sign) => ESCAPES[sign]!);
