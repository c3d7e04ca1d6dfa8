import { FACE_CRITERIA, type MethodSheet, type StripGeometry } from '@clear-mark/core';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  classMatrix,
  codeFor,
  codeOf,
  LABEL_GRIDS,
  LETTER_RANGES,
  labelPages,
  lacksLetters,
  type Paper,
  PAPERS,
  pieceSheet,
  readCode,
  runsOf,
  scoreSheetDocument,
  shapesDocument,
  stripCard,
  wallSheetDocument,
  ZONE_CARD_SCALE,
  ZONE_CARD_SIZES_UM,
  zoneCard,
} from '@clear-mark/paper';
import { STEP_DRAWINGS } from '@clear-mark/methods/drawings';
import { allLetters } from './letter-ranges.ts';
import { bytesOf, partsOfPdf, readPdf } from './pdf-for-tests.ts';

const withStrip = SHIPPED_METHODS.filter((m) => m.strip);
const [first] = withStrip;
const cut = (strip: StripGeometry): MethodSheet => ({ ...first!, strip });
const PAPER_NAMES = Object.keys(PAPERS) as Paper[];
/** What a mark may lie off on paper, mm. */
const TRUE_TO = 0.05;

async function readCard(sheet: MethodSheet, paper: Paper, copies = 1) {
  const card = stripCard(sheet, paper, copies)!;
  return { card, pages: readPdf(await bytesOf(shapesDocument(sheet.title, paper, card.pages))) };
}

describe('a strip card at true size', () => {
  it.each(withStrip.flatMap((m) => PAPER_NAMES.map((paper) => [m.id, paper, m] as const)))(
    '%s on %s: each mark is where the method says, read back from the PDF',
    async (_id, paper, sheet) => {
      const { card, pages } = await readCard(sheet, paper);
      const { jacketMm, bufferMm, cleaveMm } = sheet.strip!;
      const wanted = { end: 0, cut: bufferMm - cleaveMm, buffer: bufferMm, jacket: jacketMm };
      const upright = pages[0]!.lines.filter(([x1, , x2]) => Math.abs(x1 - x2) < 1e-6);
      const end = card.marks.find((m) => m.name === 'end')!;
      for (const mark of card.marks) {
        expect(mark.fromEndMm).toBe(wanted[mark.name]);
        const drawn = upright.filter(([x]) => Math.abs(x - end.atMm[0] - mark.fromEndMm) < TRUE_TO);
        expect(drawn.length, mark.name).toBeGreaterThan(0);
      }
      expect(pages[0]!.widthMm).toBeCloseTo(PAPERS[paper].widthMm, 2);
      expect(pages[0]!.heightMm).toBeCloseTo(PAPERS[paper].heightMm, 2);
    },
  );

  it.each(PAPER_NAMES)('the bar is 100 mm and the frame a bank card on every page of %s', async (paper) => {
    const { pages } = await readCard(first!, paper, 8);
    expect(pages.length).toBeGreaterThan(1);
    for (const { lines, rects } of pages) {
      const bar = lines.filter(([x1, y1, x2, y2]) => y1 === y2 && Math.abs(x2 - x1 - 100) < TRUE_TO);
      expect(bar).toHaveLength(1);
      const card = rects.filter(
        ([, , w, h]) => Math.abs(w - 85.6) < TRUE_TO && Math.abs(h - 53.98) < TRUE_TO,
      );
      expect(card).toHaveLength(1);
    }
  });

  it('the corners are where the card says, so that a photograph can be measured by them', async () => {
    const { card, pages } = await readCard(first!, 'A4', 3);
    for (const { page, sideMm, middlesMm } of card.corners) {
      for (const [x, y] of middlesMm) {
        const square = pages[page]!.rects.filter(
          ([rx, ry, w, h]) =>
            Math.abs(w - sideMm) < TRUE_TO &&
            Math.abs(h - sideMm) < TRUE_TO &&
            Math.hypot(rx + w / 2 - x, ry + h / 2 - y) < TRUE_TO,
        );
        expect(square).toHaveLength(1);
      }
    }
  });

  it('lengths of any size: nothing leaves the paper, each mark stands on a strip, strips share 10 mm', () => {
    const strips = fc.record({
      jacketMm: fc.integer({ min: 0, max: 1200 }),
      bufferMm: fc.integer({ min: 1, max: 1200 }),
      cleaveMm: fc.integer({ min: 0, max: 60 }),
    });
    fc.assert(
      fc.property(strips, fc.constantFrom(...PAPER_NAMES), (strip, paper) => {
        const card = stripCard(cut(strip), paper)!;
        const { widthMm, heightMm } = PAPERS[paper];
        for (const shape of card.pages.flatMap((p) => p.shapes)) {
          const points =
            shape.kind === 'line'
              ? [shape.from, shape.to]
              : shape.kind === 'polygon'
                ? shape.points
                : [shape.at];
          for (const [x, y] of points) {
            expect(x).toBeGreaterThanOrEqual(0);
            expect(x).toBeLessThanOrEqual(widthMm);
            expect(y).toBeGreaterThanOrEqual(0);
            expect(y).toBeLessThanOrEqual(heightMm);
          }
        }
        const names = new Set(card.marks.map((m) => m.name));
        expect(names.has('end')).toBe(true);
        expect(names.has('buffer')).toBe(true);
        expect(names.has('jacket')).toBe(strip.jacketMm > 0);
        expect(names.has('cut')).toBe(strip.bufferMm > strip.cleaveMm);
      }),
    );
  });

  it('a length longer than the page goes on over further strips, their joints lettered', () => {
    const card = stripCard(cut({ jacketMm: 420, bufferMm: 300, cleaveMm: 30 }), 'Letter')!;
    const letters = card.pages
      .flatMap((p) => p.shapes)
      .flatMap((s) => (s.kind === 'text' && /^[A-Z]$/.test(s.text) ? [s.text] : []));
    expect(letters).toEqual(['A', 'A', 'B', 'B']);
    const marks = card.marks.map((m) => [m.name, m.fromEndMm]);
    expect(marks).toEqual([
      ['end', 0],
      ['cut', 270],
      ['buffer', 300],
      ['jacket', 420],
    ]);
  });

  it('carries the version and the code; a method without lengths has no card', () => {
    const shapes = stripCard(first!, 'A4')!.pages[0]!.shapes;
    expect(shapes).toContainEqual(expect.objectContaining({ kind: 'code', text: codeOf(first!) }));
    expect(codeOf(first!)).toBe(`clear-mark:method:${first!.id}:${first!.version}`);
    const { strip: _none, ...without } = first!;
    expect(stripCard(without, 'A4')).toBeNull();
  });

  it('fonts are in the file, and nothing is a picture', async () => {
    const card = stripCard(first!, 'A4')!;
    const text = (await bytesOf(shapesDocument('x', 'A4', card.pages))).toString('latin1');
    expect(text).toContain('/FontFile2');
    expect(text).not.toContain('/Subtype /Image');
  });
});

describe('score sheets', () => {
  const words = (rows: readonly unknown[]): string[] =>
    rows.flatMap((row) => ('across' in (row as object) ? [] : [(row as { words: string }[])[1]!.words]));

  it.each(SHIPPED_METHODS.map((m) => [m.title, m] as const))(
    '%s: every criterion once, in order',
    (_t, sheet) => {
      const labels = sheet.steps.flatMap((s) => s.criteria.map((c) => c.label));
      const made = pieceSheet(sheet, () => '', { trainee: '', piece: '' });
      expect(words(made.tables[0]!.rows)).toEqual(labels);
      expect(made.tables[0]!.rows.every((r) => 'across' in r || r.length === 6)).toBe(true);
    },
  );

  it('60 trainees are on four matrices, each once, and all pages have the rows', async () => {
    const names = Array.from({ length: 60 }, (_, i) =>
      `Trainee ${i + 1} ${'with a name that is long '.repeat(3)}`.slice(0, 80),
    );
    const made = classMatrix(first!, names);
    expect(made.tables.flatMap((t) => t.heads.slice(2))).toEqual(names.map((_, i) => String(i + 1)));
    expect(made.legend).toHaveLength(60);
    for (const table of made.tables)
      expect(words(table.rows)).toHaveLength(words(made.tables[0]!.rows).length);
    const pages = readPdf(await bytesOf(scoreSheetDocument(made, 'A4')));
    expect(pages.length).toBeGreaterThanOrEqual(4);
    const boxes = pages.flatMap((p) => p.rects).filter(([, , w]) => Math.abs(w - 9) < TRUE_TO);
    expect(boxes).toHaveLength(60 * words(made.tables[0]!.rows).length);
  });

  it('a class of nobody is one empty matrix', async () => {
    const made = classMatrix(first!, []);
    expect(made.tables).toHaveLength(1);
    expect(readPdf(await bytesOf(scoreSheetDocument(made, 'Letter'))).length).toBeGreaterThan(0);
  });
});

describe('letters', () => {
  it('go to the file that has them; marks are joined to their letter', () => {
    expect(runsOf('Łukasz Žů')).toEqual([
      { text: 'Ł', file: 'LatinMore' },
      { text: 'ukasz ', file: 'Latin' },
      { text: 'Žů', file: 'LatinMore' },
    ]);
    expect(runsOf('e\u0301')).toEqual([{ text: 'é', file: 'Latin' }]);
  });
  it('that are in none are said, and stand as a question mark', () => {
    expect(runsOf('李 a')).toEqual([{ text: '? a', file: 'Latin' }]);
    expect(['李', 'مريم', 'עדה', 'अमर'].map(lacksLetters)).toEqual([true, true, true, true]);
    for (const name of [
      'Ørsted',
      'Żółć',
      '½ µm · 3°',
      'Ольга',
      'Ґалина',
      'Айгүл',
      'Nguyễn',
      'Ελένη',
      'Ŋala',
    ]) {
      expect(lacksLetters(name), name).toBe(false);
    }
  });
  it('are those that the files have, and no others', () => {
    expect(allLetters()).toEqual(LETTER_RANGES);
  });
  it('of every shipped method and of every zone table are there', () => {
    const texts: string[] = [];
    JSON.stringify([SHIPPED_METHODS, FACE_CRITERIA], (_key, value: unknown) => {
      if (typeof value === 'string') texts.push(value);
      return value;
    });
    expect(texts.filter(lacksLetters)).toEqual([]);
    expect(texts.some((t) => t.includes('µ'))).toBe(true);
  });
  it('of drawings are in the one file that they are set in', () => {
    const drawn = Object.values(STEP_DRAWINGS).flatMap((d) =>
      d.marks.flatMap((m) => (m.style === 'word' ? runsOf(m.text).map((r) => r.file) : [])),
    );
    expect(new Set(drawn)).toEqual(new Set(['Latin']));
  });
});

describe('labels', () => {
  const labels = (n: number) =>
    Array.from({ length: n }, (_, i) => ({
      name: `Bench ${i + 1}`,
      below: 'Bench',
      code: codeFor('thing', `b-${i + 1}`),
    }));

  it.each(Object.entries(LABEL_GRIDS))(
    '%s: every label lies wholly on its sheet and on no other',
    (_name, grid) => {
      const aPage = grid.across * grid.down;
      const { widthMm, heightMm } = PAPERS[grid.paper];
      expect(grid.leftMm + (grid.across - 1) * grid.pitchXMm + grid.widthMm).toBeLessThanOrEqual(
        widthMm + TRUE_TO,
      );
      expect(grid.topMm + (grid.down - 1) * grid.pitchYMm + grid.heightMm).toBeLessThanOrEqual(
        heightMm + TRUE_TO,
      );
      const pages = labelPages(labels(aPage + 1), grid);
      const codes = (page: number) => pages[page]!.shapes.filter((s) => s.kind === 'code');
      expect(codes(0)).toHaveLength(aPage);
      expect(codes(1)).toHaveLength(1);
      codes(0).forEach((shape, i) => {
        const left = grid.leftMm + (i % grid.across) * grid.pitchXMm;
        const top = grid.topMm + Math.floor(i / grid.across) * grid.pitchYMm;
        const [x, y] = shape.kind === 'code' ? shape.at : [0, 0];
        expect(x).toBeGreaterThan(left);
        expect(x + (shape.kind === 'code' ? shape.sideMm : 0)).toBeLessThan(left + grid.widthMm);
        expect(y).toBeGreaterThanOrEqual(top);
        expect(y + (shape.kind === 'code' ? shape.sideMm : 0)).toBeLessThanOrEqual(top + grid.heightMm);
      });
    },
  );

  it('begin at the first free one of a sheet that was begun', async () => {
    const grid = LABEL_GRIDS.a4_3_by_8;
    const pages = labelPages(labels(2), grid, 23);
    expect(pages.map((p) => p.shapes.filter((s) => s.kind === 'code').length)).toEqual([1, 1]);
    const bytes = await bytesOf(shapesDocument('Labels', 'A4', pages));
    // A code is squares: black ones in the last place of the first sheet, and none before it.
    const [first] = readPdf(bytes);
    expect(first!.rects.length).toBeGreaterThan(100);
    expect(first!.rects.filter(([x, y]) => x < 140 || y < 259)).toEqual([]);
  });

  it('a code is read as what it was made from, and nothing else is', () => {
    expect(readCode(codeFor('method', 'own/x-1', '3'))).toEqual({ kind: 'method', parts: ['own/x-1', '3'] });
    for (const text of ['', 'clear-mark', 'clear-mark:method', 'clear-mark:wish:1', 'x:method:1']) {
      expect(readCode(text)).toBeNull();
    }
  });
});

describe('a zone card', () => {
  it.each(FACE_CRITERIA.flatMap((t) => PAPER_NAMES.map((paper) => [t.id, paper, t] as const)))(
    '%s on %s: its rings and spots are %s times as large, read back from the PDF',
    async (_id, paper, table) => {
      const card = zoneCard(table, paper);
      const [page, more] = readPdf(await bytesOf(shapesDocument(table.title, paper, [card])));
      expect(more).toBeUndefined();
      const wanted = [...table.zones.map((z) => z.toUm), ...ZONE_CARD_SIZES_UM].map(
        (um) => (um * ZONE_CARD_SCALE) / 1000,
      );
      expect(page!.circles).toHaveLength(wanted.length);
      page!.circles.forEach(([, , diameter], i) => {
        expect(Math.abs(diameter - wanted[i]!)).toBeLessThan(TRUE_TO);
      });
      const rings = page!.circles.slice(0, table.zones.length);
      for (const [x, y] of rings) {
        expect(Math.hypot(x - rings[0]![0], y - rings[0]![1])).toBeLessThan(TRUE_TO);
      }
      for (const [x, y, d] of page!.circles) {
        expect(x - d / 2).toBeGreaterThan(5);
        expect(x + d / 2).toBeLessThan(page!.widthMm - 5);
        expect(y + d / 2).toBeLessThan(page!.heightMm - 5);
      }
    },
  );
});

describe('a wall sheet', () => {
  it.each(PAPER_NAMES)('of every shipped method is made on %s, its drawings among it', async (paper) => {
    for (const sheet of SHIPPED_METHODS) {
      const document = wallSheetDocument(sheet, () => 'at most 1 mm', paper);
      const drawn = sheet.steps.filter((s) => s.drawing !== undefined).length;
      expect(JSON.stringify(document.content).match(/<svg/g) ?? []).toHaveLength(drawn);
      const pages = readPdf(await bytesOf(document));
      expect(pages.length, sheet.id).toBeGreaterThan(0);
      expect(pages.length, sheet.id).toBeLessThan(14);
    }
  });
  it('is read aloud by its steps, with what each drawing shows', async () => {
    const sheet = SHIPPED_METHODS.find((m) => m.steps.some((s) => s.drawing !== undefined))!;
    const { pages } = await partsOfPdf(await bytesOf(wallSheetDocument(sheet, () => 'at most 1 mm', 'A4')));
    const all = pages.flatMap((p) => p.parts.flatMap((q) => q.parts));
    const steps = all.filter((p) => p.role === 'H2').map((p) => p.text);
    expect(steps).toHaveLength(sheet.steps.length);
    sheet.steps.forEach((step, i) => expect(steps[i]).toContain(step.title.replace(/\s/g, '')));
    const drawn = sheet.steps.filter((s) => s.drawing !== undefined);
    expect(all.filter((p) => p.role === 'Figure').map((p) => p.alt)).toEqual([
      expect.stringMatching(/^Code to scan: /),
      ...drawn.map((s) => STEP_DRAWINGS[s.drawing!]!.says),
    ]);
  });
  it('carries cautions, steps, limits and sources, and no markup of a text that it is given', async () => {
    const sheet: MethodSheet = {
      ...first!,
      cautions: [{ text: 'Glass & shards <now>', stop: true }],
      steps: [{ ...first!.steps[0]!, title: 'A < B & C', drawing: undefined as never }],
    };
    const content = JSON.stringify(wallSheetDocument(sheet, () => '12 to 13 mm', 'A4').content);
    for (const said of ['Stop: Glass & shards <now>', 'A < B & C', '12 to 13 mm', 'pass mark']) {
      expect(content).toContain(said);
    }
    expect((await bytesOf(wallSheetDocument(sheet, () => '', 'A4'))).length).toBeGreaterThan(1000);
  });
});
