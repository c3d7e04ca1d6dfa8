import { describe, expect, it } from 'vitest';
import { reportPage } from './report-page.ts';

const page = reportPage(
  {
    title: 'Report of <Torvin> & "Hale"',
    facts: ['Made today.'],
    sections: [
      {
        heading: 'Rates',
        blocks: [
          { kind: 'text', text: 'A < B' },
          { kind: 'list', items: ["it's one"] },
          {
            kind: 'table',
            heads: ['Skill', 'Rate'],
            numbers: [1],
            weights: [1, 1],
            rows: [['Strip', '3 of 4']],
          },
        ],
      },
    ],
  },
  [{ file: 'pictures/a.png', words: 'Face' }],
);

describe('a report as a page', () => {
  it('has every text of the report, as text', () => {
    expect(page).toContain('<h1>Report of &lt;Torvin&gt; &amp; &quot;Hale&quot;</h1>');
    for (const part of [
      'Made today.',
      '<h2>Rates</h2>',
      'A &lt; B',
      '<li>it&#39;s one</li>',
      '<td>Strip</td>',
    ])
      expect(page).toContain(part);
    expect(page).toContain('<td class="number">3 of 4</td>');
    expect(page).toContain('<img src="pictures/a.png" alt="">');
  });
  it('asks nobody for anything and runs nothing', () => {
    expect(page).not.toMatch(/<script|https?:|@import|<link/);
  });
});
