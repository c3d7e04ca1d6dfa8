import { DEFAULT_POLICY, DEFAULT_SCORING, type Entry, score, wilsonRate } from '@clear-mark/core';
import type {
  AttemptDocument,
  AttemptRow,
  Certificate,
  FaceRow,
  Results,
  StandingCell,
  TraceRow,
} from '@clear-mark/contract';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import {
  attemptReport,
  certificateReport,
  classReport,
  type Paper,
  PAPERS,
  type Report,
  reportDocument,
  traineeReport,
} from '@clear-mark/paper';
import { rateWords } from '@clear-mark/words';
import { describe, expect, it } from 'vitest';
import { bytesOf, partsOfPdf, readPdf, type ReadPart, wordsOfPdf } from './pdf-for-tests.ts';

const OF = {
  className: 'Pier crew 1',
  place: 'Old net loft',
  days: '2 to 27 Mar 2026',
  madeAt: '3 Mar 2026',
};
const summary = (k: number, n: number) => ({
  rate: wilsonRate(k, n),
  firstAttempt: wilsonRate(k > 3 ? 3 : k, 7),
  void: 2,
  incomplete: 5,
  marginal: 1,
  firstPassAt: [1, 2],
  notYetPassed: 1,
});
const cell = (more: Partial<StandingCell> = {}): StandingCell => ({
  skill: 'cleave',
  standing: 'retrain',
  evidence: {
    code: 'standing.fails_in_a_row',
    params: { fails: 3, outcomes: 17, count: 3, of: 17, n: 17, k: 3 },
  },
  window: 'PPFFF',
  rate: wilsonRate(11, 17),
  behind: { criterionId: 'x', label: 'Cleave angle', stepTitle: 'Cleave inspected', times: 4 },
  ...more,
});
const SAMPLE: Results['losses'][number] = {
  methodId: 'm',
  methodTitle: 'Pre-polished LC',
  referenceMethod: 'one_cord',
  fiberClass: 'OS2',
  wavelengthNm: 1310,
  direction: '',
  limitDb: 0.75,
  expectedDb: 0.3,
  summary: {
    n: 48,
    mean: 0.2875,
    sd: 0.1013,
    median: 0.2711,
    mad: 0.05,
    q05: 0.1,
    q25: 0.2,
    q75: 0.35,
    q95: 0.4986,
    min: 0.1,
    max: 0.81,
    skewness: 0.4,
    powerMeanDb: 0.28,
    over: 3,
    meanDistanceToLimitDb: 0.46,
  },
  histogram: { from: 0, width: 0.1, counts: [1] },
  voidReadings: 0,
};
const RESULTS: Results = {
  skills: [
    { skill: 'strip', summary: summary(41, 48) },
    { skill: 'cleave', summary: summary(11, 17) },
  ],
  whole: summary(30, 48),
  losses: [SAMPLE],
  failures: [
    {
      criterionId: 'x',
      label: 'Cleave angle',
      stepTitle: 'Cleave inspected',
      skill: 'cleave',
      critical: true,
      failed: 6,
      pointsLost: 36,
      faults: [],
    },
  ],
  standings: [
    {
      traineeId: '1',
      traineeName: 'Torvin Hale',
      cells: [cell(), cell({ skill: 'strip', standing: 'competent', rate: wilsonRate(41, 48) })],
    },
    { traineeId: '2', traineeName: 'Ysolde Brack', cells: [cell({ standing: 'learning' })] },
  ],
  signed: 96,
};
const PIECE = {
  attemptId: 'a',
  traineeId: '1',
  traineeName: 'Torvin Hale',
  pieceLabel: 'TH-12',
  methodTitle: 'Pre-polished LC',
  startedAt: '2026-03-02T09:00:00.000Z',
  day: '2026-03-02',
  state: 'signed',
  verdict: 'marginal_pass',
  skills: {},
  losses: [{ wavelengthNm: 1310, lossDb: 0.31 }],
  reason: null,
} as AttemptRow;
const CERTIFICATE = {
  id: 'c',
  code: 'ABCD-EFGH-JK23',
  traineeId: '1',
  traineeName: 'Torvin Hale',
  className: OF.className,
  place: OF.place,
  skills: [
    {
      skill: 'cleave',
      rule: '3 passes in a row',
      evidence: 'The last 3 of 17 outcomes passed.',
      lapsesOn: '2027-03-03',
      methods: [{ title: 'Pre-polished LC', version: 4 }],
    },
  ],
  issuedBy: 'Ruta Almqvist',
  issuedAt: '2026-03-03T09:00:00.000Z',
  validUntil: '2027-03-03',
  state: 'valid',
} as Certificate;

const FACE = {
  id: 'f',
  label: 'TH-12 after cleaning',
  takenAt: '2026-03-02T09:40:00.000Z',
  pieceLabel: 'TH-12',
  traineeId: '1',
  verdict: 'pass',
  traineeSaid: 'fail',
  dayWords: '2 Mar 2026',
} as FaceRow & { dayWords: string };
/** A grey picture of one dot. */
const DOT =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNoAAAAggCBd81ytgAAAABJRU5ErkJggg==';
const CLASS = classReport(OF, RESULTS);
const TRAINEE = traineeReport({
  ...OF,
  traineeName: 'Torvin Hale',
  policy: DEFAULT_POLICY,
  cells: RESULTS.standings[0]!.cells,
  results: RESULTS,
  pieces: [
    { ...PIECE, dayWords: '2 Mar 2026' },
    {
      ...PIECE,
      pieceLabel: 'TH-11',
      losses: [{ wavelengthNm: 1310, lossDb: 0.52 }],
      dayWords: '27 Feb 2026',
    },
  ],
  certificates: [CERTIFICATE],
  faces: [FACE],
});
const GLASSES = 'clear-mark/lc-wedge-locator/glasses';
const ENTRIES = [
  {
    id: 'e',
    kind: 'value',
    criterionId: GLASSES,
    part: '',
    value: { kind: 'check', passed: false },
    voidReason: null,
    note: null,
    authorId: 'i',
    capacity: 'instructor',
    deviceId: 'd',
    source: 'typed',
    at: '2026-03-02T09:00:00.000Z',
    supersedes: [],
    targetId: null,
  } as Entry,
];
const OUTCOME = score(LC_WEDGE_LOCATOR, ENTRIES, { ...DEFAULT_SCORING, final: true });
const EVENT = {
  lossDb: null,
  uLossDb: null,
  reflectanceDb: null,
  saturated: false,
  deadZoneM: null,
  ghost: false,
} as const;
const ATTEMPT = attemptReport({
  ...OF,
  document: {
    attempt: {
      id: 'a',
      traineeName: 'Torvin Hale',
      pieceLabel: 'TH-12',
      startedAt: '2026-03-02T09:00:00.000Z',
      things: [{ label: 'Bench A' }],
    },
    sheet: LC_WEDGE_LOCATOR,
    entries: ENTRIES,
    revisions: [
      {
        revision: 1,
        kind: 'signed_incomplete',
        signedAt: '2026-03-02T10:00:00.000Z',
        signedBy: 'Ysolde Brack',
        reason: 'Fire drill',
        hash: 'ab'.repeat(32),
        previousHash: null,
        lastSeq: 1,
        outcome: OUTCOME,
      },
    ],
  } as unknown as AttemptDocument,
  valueOf: (c) => (c.id === GLASSES ? 'fail' : ''),
  limitOf: () => '',
  momentOf: () => '2 Mar 2026, 09:00',
  pictures: [
    { src: DOT, words: 'TH-12 before cleaning: fail' },
    { src: DOT, words: 'TH-12 after cleaning: pass' },
  ],
  traces: [
    {
      row: { label: 'Riser, fiber 2', wavelengthNm: 1310, pulseNs: 10 } as TraceRow,
      events: [
        { ...EVENT, positionM: 500.2, kind: 'reflective', lossDb: 0.312, reflectanceDb: -51.4 },
        { ...EVENT, positionM: 702, kind: 'end' },
      ],
      loss: { fromM: 500.2, toM: 702, lossDb: 0.41, uLossDb: 0.01, complete: false, why: 'no_receive_cord' },
    },
  ],
});
const CERTIFIED = certificateReport(CERTIFICATE, {
  issuedOn: '3 Mar 2026',
  dayOf: (day) => day,
  address: 'https://school.example/verify/ABCD-EFGH-JK23',
});
const ALL: readonly (readonly [string, Report])[] = [
  ['a class', CLASS],
  ['a trainee', TRAINEE],
  ['a piece', ATTEMPT],
  ['a certificate', CERTIFIED],
];

/** Everything that a report says, in its order. */
const textsOf = (report: Report): string[] => [
  report.title,
  ...report.facts,
  ...report.sections.flatMap((s) => [
    s.heading,
    ...s.blocks.flatMap((b) =>
      b.kind === 'text'
        ? [b.text]
        : b.kind === 'list'
          ? b.items
          : b.kind === 'drawing'
            ? [b.words, ...[...b.svg.matchAll(/>([^<]+)<\/text>/g)].map(([, said]) => said!)]
            : b.kind === 'pictures'
              ? b.pictures.map((p) => p.words)
              : [...b.heads, ...b.rows.flat()],
    ),
  ]),
];
const bare = (text: string): string => text.replace(/\s/g, '');

describe('a report on paper', () => {
  it.each(
    ALL.flatMap(([name, report]) => (Object.keys(PAPERS) as Paper[]).map((p) => [name, p, report] as const)),
  )(
    'of %s on %s says every word and number of its description, read back by another program',
    async (_, paper, report) => {
      const bytes = await bytesOf(reportDocument(report, paper));
      const pages = await wordsOfPdf(bytes);
      // Words that were broken over lines are put together again: a cell of several lines stands in one piece or in parts.
      const all = pages.join('');
      for (const text of textsOf(report)) {
        const parts = text.split(/\s+/).map(bare);
        for (const part of parts) expect(all, text).toContain(part);
      }
      const read = readPdf(bytes);
      expect(read[0]!.widthMm).toBeCloseTo(PAPERS[paper].widthMm, 1);
      expect(pages.length).toBe(read.length);
    },
  );
  it.each(ALL)('of %s is read aloud by its parts in their order, each once', async (_, report) => {
    const { isMarked, pages, unread } = await partsOfPdf(await bytesOf(reportDocument(report, 'A4')));
    expect(isMarked).toBe(true);
    const flat = ({ parts, ...of }: ReadPart): ReadPart[] => [{ ...of, parts }, ...parts.flatMap(flat)];
    const all = pages.flatMap(flat);
    const said = (role: string): string[] => all.filter((p) => p.role === role).map((p) => p.text);
    expect(said('H1').join('')).toBe(bare(report.title));
    expect(said('H2').join(' ')).toBe(report.sections.map((s) => bare(s.heading)).join(' '));
    const blocks = report.sections.flatMap((s) => s.blocks);
    const tables = blocks.filter((b) => b.kind === 'table');
    // A part that goes over two pages is there twice, with what stands on each: joined it is the whole.
    expect(said('TH').join('')).toBe(bare(tables.flatMap((b) => b.heads).join('')));
    expect(said('TD').join('')).toBe(bare(tables.flatMap((b) => b.rows.flat()).join('')));
    expect(said('LBody').join('')).toBe(
      bare(blocks.flatMap((b) => (b.kind === 'list' ? b.items : [])).join('')),
    );
    const shown = blocks.flatMap((b) =>
      b.kind === 'drawing' ? [b.words] : b.kind === 'pictures' ? b.pictures.map((p) => p.words) : [],
    );
    const code = report.code ? [`Code to scan: ${report.code.address}`] : [];
    expect(all.filter((p) => p.role === 'Figure').map((p) => p.alt)).toEqual([...code, ...shown]);
    // The title and the number of each page below it are not read into the text.
    unread.forEach((aside, i) => expect(aside).toContain(`Page${i + 1}of${pages.length}`));
  });
  it('a table has a share of the width for each of its columns', () => {
    for (const [, report] of ALL)
      for (const block of report.sections.flatMap((s) => s.blocks)) {
        if (block.kind !== 'table') continue;
        expect(block.weights).toHaveLength(block.heads.length);
        for (const row of block.rows) expect(row).toHaveLength(block.heads.length);
        for (const n of block.numbers) expect(n).toBeLessThan(block.heads.length);
      }
  });
});

describe('what reports say', () => {
  const table = (report: Report, heading: string): readonly (readonly string[])[] => {
    const block = report.sections
      .find((s) => s.heading.startsWith(heading))!
      .blocks.find((b) => b.kind === 'table');
    return block?.kind === 'table' ? block.rows : [];
  };
  it('rates as Insight says them', () => {
    expect(table(CLASS, 'Pass rates').map((r) => r[1])).toEqual(
      [...RESULTS.skills.map((s) => s.summary), RESULTS.whole].map((s) => rateWords(s.rate)),
    );
    expect(table(CLASS, 'Pass rates')[0]).toEqual([
      'Stripping',
      '41 of 48, 85 % (73 to 93)',
      '3 of 7, 43 % (16 to 75)',
      '2',
      '5',
    ]);
  });
  it('losses with their n, mean, SD, median, 95 % and limit', () => {
    expect(table(CLASS, 'Losses')[0]!.slice(1)).toEqual([
      '48',
      '0.287',
      '0.101',
      '0.271',
      '0.499',
      '0.750',
      '3',
    ]);
  });
  it('who needs what again with the evidence, and who is ready', () => {
    expect(table(CLASS, 'Who needs')).toEqual([
      ['Torvin Hale', 'Cleaving', 'Retrain', expect.stringContaining('Mostly at: Cleave angle.')],
    ]);
    expect(table(CLASS, 'Who is ready')).toEqual([
      ['Torvin Hale', 'Stripping', ''],
      ['Ysolde Brack', '', 'Cleaving'],
    ]);
  });
  it('a trainee’s skills with evidence and the last outcomes, pieces and certificates', () => {
    expect(table(TRAINEE, 'Where each skill')[0]).toEqual([
      'Cleaving',
      'Retrain',
      expect.any(String),
      'P P F F F',
      rateWords(wilsonRate(11, 17)),
    ]);
    expect(table(TRAINEE, 'The last pieces')).toEqual([
      ['2 Mar 2026', 'TH-12', 'Pre-polished LC', 'Marginal pass', '1310 nm 0.31'],
      ['27 Feb 2026', 'TH-11', 'Pre-polished LC', 'Marginal pass', '1310 nm 0.52'],
    ]);
    expect(table(TRAINEE, 'End faces')).toEqual([
      ['2 Mar 2026', 'TH-12 after cleaning', 'TH-12', 'Pass', 'Fail'],
    ]);
    expect(table(TRAINEE, 'Certificates')[0]).toEqual([
      'Cleaving',
      CERTIFICATE.code,
      '2027-03-03',
      'It holds',
    ]);
  });
  it('a piece by its criteria, its points and its signed records', () => {
    const criteria = ATTEMPT.sections.filter((s) => /^\d+\. /.test(s.heading));
    expect(criteria.length).toBe(LC_WEDGE_LOCATOR.steps.length);
    expect(ATTEMPT.sections.some((s) => s.heading.startsWith('Fail, '))).toBe(OUTCOME.verdict === 'fail');
    expect(table(ATTEMPT, 'Trace: Riser, fiber 2')).toEqual([
      ['1', '500.2 m', 'reflects', '0.31', '-51.4'],
      ['2', '702.0 m', 'end of the fiber', '', ''],
    ]);
    expect(JSON.stringify(ATTEMPT)).toContain('without a receive cord the last connector is not in it');
    expect(table(ATTEMPT, 'Signed records')[0]).toEqual([
      'Signed incomplete',
      'Ysolde Brack',
      '2 Mar 2026, 09:00',
      expect.any(String),
      'Fire drill',
      'abababababababab',
    ]);
  });
  it('the pictures of a piece are in the file, each once in its place', async () => {
    const bytes = await bytesOf(reportDocument(ATTEMPT, 'A4'));
    expect(bytes.toString('latin1').match(/\/Subtype \/Image/g)).not.toBeNull();
  });
});
