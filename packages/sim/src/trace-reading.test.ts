import {
  analyseTrace,
  DomainError,
  judgeTraceEvents,
  judgeTraceReading,
  linkBetweenCords,
  linkLoss,
  linkOnTrace,
  type LinkPlan,
  lossByMarkers,
  type LossRules,
  type Markers,
  readSeries,
  returnLoss,
  type Trace,
  traceAgainstPlan,
  traceCauses,
  traceDifference,
  traceGroups,
  traceOutline,
  traceSetUp,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { type Plant, simulatedTrace } from './otdr-trace.ts';
import { USUAL_METER } from './random-plant.ts';
import { rngFrom } from './rng.ts';

const METER = { ...USUAL_METER, points: 6000, noiseDb: -100 };
/** Launch cord of 800 m, a link of 700 m with a splice, receive cord of 400 m. */
const PLANT: Plant = {
  events: [
    { positionM: 800, lossDb: 0.3, reflectanceDb: -50 },
    { positionM: 1100, lossDb: 0.12, reflectanceDb: null },
    { positionM: 1500, lossDb: 0.25, reflectanceDb: -48 },
  ],
  endM: 1900,
  endReflectanceDb: -20,
  portReflectanceDb: -50,
  dbPerKm: 0.33,
  backscatterSteps: [],
};
const PLAN: LinkPlan = {
  fiberClass: 'OS2',
  fibers: 1,
  ends: ['panel', 'panel'],
  segments: [
    { kind: 'cable', lengthM: 300, polish: 'flat' },
    { kind: 'cable', lengthM: 400, polish: 'flat' },
  ],
  joints: ['splice'],
};
const RULES: LossRules = lossRulesFor('OS2', 'one_cord');
const traceOf = (plant: Plant, seed = 3): Trace => simulatedTrace(plant, METER, rngFrom(seed));
const trace = traceOf(PLANT);
const analysis = analyseTrace(trace);
const range = linkBetweenCords(analysis, 800, 400)!;

/** A straight line of backscatter, with nothing on it. */
const even = (points: number, spacingM: number, dbPerKm: number, backscatterDb: number): Trace => ({
  wavelengthNm: 1310,
  pulseNs: 10,
  groupIndex: 1.468,
  backscatterDb,
  averages: 1,
  firstM: 0,
  spacingM,
  levelsDb: Float64Array.from({ length: points }, (_, i) => -10 - (dbPerKm * i * spacingM) / 1000),
});

describe('a link against its plan', () => {
  const against = (plant: Plant, plan = PLAN) => {
    const own = traceOf(plant);
    const found = analyseTrace(own);
    const loss = linkLoss(own, found, linkBetweenCords(found, 800, 400));
    return traceAgainstPlan(found, loss, plan, RULES, 1310, 800, 3);
  };

  it('begins where the launch cord ends, though its label is a little off', () => {
    expect(linkBetweenCords(analysis, 797, 401)).toEqual(range);
    expect(Math.abs(range.fromM - 800)).toBeLessThan(1);
    expect(Math.abs(range.toM - 1500)).toBeLessThan(1);
    expect(linkBetweenCords(analysis, null, 400)).toBeNull();
    expect(linkBetweenCords(analysis, 1500, 500)).toBeNull();
    // By the file's landmarks only where nobody said how long the cords are.
    expect(linkOnTrace(analysis, [790, 1000, 1490], null, null)).toEqual({ fromM: 790, toM: 1490 });
    expect(linkOnTrace(analysis, [790, 1490], 800, 400)).toEqual(range);
    expect(linkOnTrace(analysis, [790], null, null)).toBeNull();
    expect(linkBetweenCords(analysis, 800, 0)!.toM).toBeCloseTo(1900, 0);
  });

  it('finds each planned place, with its limit and its verdict', () => {
    const { places, others, breakAtM, verdict, terms } = against(PLANT);
    expect(places.map((p) => [p.parts, Math.round(p.foundM!), p.verdict, p.limitDb])).toEqual([
      [['connection'], 800, 'pass', 0.75],
      [['splice'], 1100, 'pass', 0.3],
      [['connection'], 1500, 'pass', 0.75],
    ]);
    expect([others, breakAtM, verdict]).toEqual([[], null, 'pass']);
    // Two connections, one splice, 700 m of the coefficient.
    expect(terms.limitDb).toBeCloseTo(2 * 0.75 + 0.3 + 0.7 * RULES.fiberDbPerKm[1310]!.db, 9);
  });

  it.each([
    ['a bad splice', { 1: { positionM: 1100, lossDb: 0.5, reflectanceDb: null } }, 1, 'fail', null],
    [
      'a splice too good to be seen',
      { 1: { positionM: 1100, lossDb: 0.004, reflectanceDb: null } },
      1,
      null,
      'too_small_to_see',
    ],
    [
      'no connector where one is planned',
      { 2: { positionM: 1650, lossDb: 0.25, reflectanceDb: -48 } },
      2,
      null,
      'not_found',
    ],
  ])('%s', (_, changed, at, verdict, note) => {
    const events = PLANT.events.map((e, i) => (changed as Record<number, typeof e>)[i] ?? e);
    const place = against({ ...PLANT, events }).places[at]!;
    expect([place.verdict, place.note]).toEqual([verdict, note]);
  });

  it('tells a gain, a break, and what the plan does not have', () => {
    const gain = against({ ...PLANT, backscatterSteps: [{ fromM: 1100, offsetDb: 0.4 }] }).places[1]!;
    expect([gain.verdict, gain.note]).toEqual([null, 'gain']);
    const broken = against({ ...PLANT, events: PLANT.events.slice(0, 2), endM: 1240 });
    expect(broken.breakAtM).toBeCloseTo(1240, 0);
    expect(broken.places[2]!.note).toBe('behind_end');
    const bent = { positionM: 1300, lossDb: 0.4, reflectanceDb: null };
    const { others } = against({ ...PLANT, events: [...PLANT.events.slice(0, 2), bent, PLANT.events[2]!] });
    expect(others.map((e) => Math.round(e.positionM))).toEqual([1300]);
  });

  it('two connectors of a cassette are one place, with both allowances', () => {
    const plan: LinkPlan = {
      ...PLAN,
      segments: [
        PLAN.segments[0]!,
        { kind: 'cassette', polish: 'flat', turned: false, pins: true },
        PLAN.segments[1]!,
      ],
      joints: ['connection', 'connection'],
    };
    expect(against(PLANT, plan).places[1]).toMatchObject({
      parts: ['connection', 'connection'],
      limitDb: 1.5,
    });
  });

  it('refuses a link that has no limit, and a wavelength without a coefficient', () => {
    const loss = linkLoss(trace, analysis, range);
    const of = (plan: LinkPlan, nm: number) => () =>
      traceAgainstPlan(analysis, loss, plan, RULES, nm, 800, 3);
    expect(of({ ...PLAN, segments: [], joints: [] }, 1310)).toThrow(DomainError);
    expect(of(PLAN, 1400)).toThrow('loss.no_coefficient');
  });
});

describe('the set-up, as the trace shows it', () => {
  const set = (more: Partial<Trace>, link = range as typeof range | null) =>
    traceSetUp({ ...trace, ...more }, analysis, link);
  it('is right here', () =>
    expect(set({})).toEqual({
      launchLonger: true,
      receiveCord: true,
      range: true,
      pulse: true,
      index: true,
    }));
  it('a launch cord shorter than the link, no receive cord, another index, a pulse too long, a range too far', () => {
    expect(set({}, { fromM: 600, toM: 1500 }).launchLonger).toBe(false);
    expect(set({}, { fromM: 800, toM: 1900 }).receiveCord).toBe(false);
    expect(set({ groupIndex: 1.2 }).index).toBe(false);
    expect(set({ pulseNs: 1000 }).pulse).toBe(false);
    expect(set({ spacingM: 5 }).range).toBe(false);
  });
  it('says nothing of what it does not show', () =>
    expect(set({}, null)).toEqual({
      launchLonger: null,
      receiveCord: null,
      range: true,
      pulse: null,
      index: true,
    }));
});

describe('what a trace points to', () => {
  const pointing = (plant: Plant) => {
    const own = traceOf(plant);
    const found = analyseTrace(own);
    const loss = linkLoss(own, found, linkBetweenCords(found, 800, 400));
    return traceCauses(traceAgainstPlan(found, loss, PLAN, RULES, 1310, 800, 3));
  };
  const withEvent = (i: number, more: object) => ({
    ...PLANT,
    events: PLANT.events.map((e, k) => (k === i ? { ...e, ...more } : e)),
  });
  it('nothing where the link is as it should be', () => expect(pointing(PLANT)).toEqual([]));
  it.each([
    ['dirt', withEvent(0, { lossDb: 1.2, reflectanceDb: -33 }), 'dirty_face', 'loss_reflects'],
    ['a bad connection', withEvent(2, { lossDb: 1.1, reflectanceDb: -55 }), 'bad_connection', 'loss_only'],
    ['a bad splice', withEvent(1, { lossDb: 0.6 }), 'bad_cleave', 'splice_loses'],
    [
      'a break',
      { ...PLANT, events: PLANT.events.slice(0, 2), endM: 1240 },
      'broken_fiber',
      'end_before_plan',
    ],
    [
      'a bend',
      {
        ...PLANT,
        events: [...PLANT.events, { positionM: 1300, lossDb: 0.4, reflectanceDb: null }].sort(
          (a, b) => a.positionM - b.positionM,
        ),
      },
      'bend',
      'unplanned_loss',
    ],
  ])('%s', (_, plant, cause, because) => {
    const [first] = pointing(plant);
    expect([first!.causes[0], first!.because]).toEqual([cause, because]);
  });
  it('growth with the wavelength makes a bend sure', () => {
    const plant = {
      ...PLANT,
      events: [...PLANT.events, { positionM: 1300, lossDb: 0.4, reflectanceDb: null }].sort(
        (a, b) => a.positionM - b.positionM,
      ),
    };
    const own = traceOf(plant);
    const found = analyseTrace(own);
    const plan = traceAgainstPlan(found, linkLoss(own, found, range), PLAN, RULES, 1310, 800, 3);
    const [bent] = traceCauses(plan, [{ positionM: 1300, lossesDb: [0.1, 0.4], bend: true }]);
    expect(bent!.because).toBe('grows');
  });
});

describe('a dead zone', () => {
  it('is a pulse long at least, and no more than a few; the end has none', () => {
    const { events } = analyseTrace(trace);
    // 30 ns are 3.06 m of fiber.
    for (const e of events.filter((x) => x.kind === 'reflective' && !x.ghost)) {
      expect(e.deadZoneM).toBeGreaterThan(3);
      expect(e.deadZoneM).toBeLessThan(25);
    }
    expect(events.at(-1)).toMatchObject({ kind: 'end', deadZoneM: null });
  });
});

describe('return loss', () => {
  it('of even fiber is that of its backscatter (closed form: B + 10 lg of the time that light comes back)', () => {
    const length = 4000;
    const alpha = 0.35;
    const b = -79.5;
    const own = even(8001, 0.5, alpha, b);
    const found = analyseTrace(own);
    // Light comes back over 2 n Z / c, weakened by 2 a Z on its way: both ways once, one-way coefficient in dB.
    const c = 299_792_458;
    const nsPerM = (2 * own.groupIndex * 1e9) / c;
    const k = (2 * alpha * Math.LN10) / 10 / 1000;
    const expected = -(b + 10 * Math.log10((nsPerM * (1 - Math.exp(-k * length))) / k));
    expect(returnLoss(own, found, 0, length)!.lossDb).toBeCloseTo(expected, 2);
  });
  it('of a short link is that of its reflections', () => {
    const back = returnLoss(trace, analysis, range.fromM - 1, range.toM + 10)!;
    // -50 dB behind nothing; -48 dB behind the first connector, the splice and 0.7 km, both ways; fiber behind what goes before it.
    const second = -48 - 2 * (0.3 + 0.12 + 0.33 * 0.7);
    const nsPerM = (2 * 1.4677 * 1e9) / 299_792_458;
    const fiberOf = (lengthM: number, lostDb: number): number => {
      const k = (2 * 0.33 * Math.LN10) / 10 / 1000;
      return 10 ** ((-79.5 - 2 * lostDb) / 10) * ((nsPerM * (1 - Math.exp(-k * lengthM))) / k);
    };
    const fiber = fiberOf(300, 0.3) + fiberOf(400, 0.42 + 0.33 * 0.3);
    const sum = 10 ** (-50 / 10) + 10 ** (second / 10) + fiber;
    expect(Math.abs(back.lossDb + 10 * Math.log10(sum))).toBeLessThan(0.2);
    expect(back.atMost).toBe(false);
  });
  it('is none without a backscatter level, and of an empty range', () => {
    expect(returnLoss({ ...trace, backscatterDb: null }, analysis, 800, 1500)).toBeNull();
    expect(returnLoss(trace, analysis, 1500, 800)).toBeNull();
  });
});

describe('markers set by hand', () => {
  const markers: Markers = {
    aM: 799,
    bM: 1499,
    before: { fromM: 400, toM: 790 },
    after: { fromM: 1540, toM: 1880 },
  };
  it('measure the link by the lines of both cords', () => {
    const loss = lossByMarkers(trace, analysis, markers);
    if (!loss.ok) throw new Error(loss.why);
    expect(loss.linesDb).toBeCloseTo(0.3 + 0.12 + 0.25 + 0.33 * 0.7, 2);
    expect(loss.distanceM).toBe(700);
    expect(loss.uLinesDb).toBeLessThan(0.01);
  });
  it.each<[string, Partial<Markers>, string]>([
    ['crossed', { aM: 1499, bM: 799 }, 'crossed'],
    ['a window turned round', { before: { fromM: 790, toM: 400 } }, 'crossed'],
    ['off the trace', { after: { fromM: 1540, toM: 4000 } }, 'outside'],
    ['no number', { aM: Number.NaN }, 'outside'],
    ['a window of nothing', { before: { fromM: 600, toM: 601 } }, 'window_empty'],
    ['a window over a connector', { after: { fromM: 1499, toM: 1880 } }, 'window_in_event'],
    ['a window behind its marker', { before: { fromM: 400, toM: 900 } }, 'window_wrong_side'],
    ['noise', { bM: 2100, after: { fromM: 2200, toM: 2500 } }, 'in_noise'],
  ])('%s: said, and no number', (_, change, why) => {
    expect(lossByMarkers(trace, analysis, { ...markers, ...change })).toEqual({ ok: false, why });
  });
});

describe('what a drawing shows', () => {
  const groups = traceGroups(trace);
  it.each([7, 300, 1200, 6000, 9000])(
    'keeps the lowest and highest point of each of %d columns',
    (columns) => {
      const fromM = 120;
      const toM = 1960;
      const outline = traceOutline(trace, groups, fromM, toM, columns);
      for (let c = 0; c < columns; c += Math.max(1, Math.floor(columns / 50))) {
        const within = [...trace.levelsDb].filter((_, i) => {
          const m = trace.firstM + i * trace.spacingM;
          return m >= fromM + c * outline.columnM && m < fromM + (c + 1) * outline.columnM;
        });
        if (within.length === 0) continue;
        expect(outline.lows[c]).toBeCloseTo(Math.min(...within), 12);
        expect(outline.highs[c]).toBeCloseTo(Math.max(...within), 12);
      }
    },
  );
  it('nearer than the points lie it goes between them, and shows nothing outside', () => {
    const near = traceOutline(trace, groups, 500, 501, 40);
    expect([...near.lows].every((v) => Number.isFinite(v))).toBe(true);
    const beyond = traceOutline(trace, groups, 2900, 4000, 10);
    expect(Number.isNaN(beyond.highs[9]!)).toBe(true);
  });
  it('the difference of two traces is what lies between them', () => {
    const worse = traceOf({
      ...PLANT,
      events: PLANT.events.map((e, i) => (i === 1 ? { ...e, lossDb: 0.62 } : e)),
    });
    const { levelsDb } = traceDifference(worse, trace);
    const mean = (from: number, to: number): number => {
      const part = levelsDb.slice(from * 2, to * 2);
      return part.reduce((sum, v) => sum + v, 0) / part.length;
    };
    expect(mean(1200, 1400) - mean(900, 1050)).toBeCloseTo(-0.5, 1);
    const shorter = { ...trace, levelsDb: trace.levelsDb.slice(0, 100) };
    expect(Number.isNaN(traceDifference(trace, shorter).levelsDb[500]!)).toBe(true);
  });
});

describe('a trace read by a person', () => {
  const events = [
    { positionM: 100, kind: 'reflective', ghost: false },
    { positionM: 250, kind: 'non_reflective', ghost: false },
    { positionM: 400, kind: 'reflective', ghost: true },
    { positionM: 500, kind: 'end', ghost: false },
  ] as const;
  it('marks belong to the nearest event, each to one', () => {
    const read = judgeTraceReading(
      events,
      [
        { positionM: 100.6, kind: 'reflective' },
        { positionM: 99.2, kind: 'reflective' },
        { positionM: 251, kind: 'reflective' },
        { positionM: 400.2, kind: 'reflective' },
        { positionM: 320, kind: 'non_reflective' },
        { positionM: 500, kind: 'end' },
      ],
      2,
    );
    expect(read).toEqual({
      found: 3,
      events: 3,
      named: 2,
      invented: 2,
      ghostsCalled: 1,
      endFound: true,
      marks: ['right', 'nothing', 'other_kind', 'ghost', 'nothing', 'right'],
      missedM: [],
    });
  });
  it('a ghost named as one is right; an event put down as a ghost is missed', () => {
    const read = judgeTraceReading(
      events,
      [
        { positionM: 400, kind: 'ghost' },
        { positionM: 250, kind: 'ghost' },
      ],
      2,
    );
    expect(read).toMatchObject({
      found: 0,
      invented: 0,
      ghostsCalled: 0,
      endFound: false,
      marks: ['right', 'other_kind'],
    });
    expect(read.missedM).toEqual([100, 250, 500]);
  });
  it('a series adds up; a trace without an answer has all missed and no verdict', () => {
    const one = { events, withinM: 2, reference: 'fail' as const };
    const right = {
      marks: events.filter((e) => !e.ghost).map(({ positionM, kind }) => ({ positionM, kind })),
      said: 'fail' as const,
    };
    expect(
      readSeries([
        { ...one, answer: right },
        { ...one, answer: null },
        { ...one, answer: { marks: [], said: 'pass' } },
      ]),
    ).toEqual({
      traces: 3,
      found: 3,
      events: 9,
      named: 3,
      invented: 0,
      ghostsCalled: 0,
      ends: 3,
      endsFound: 1,
      verdictsRight: 1,
      badCalledGood: 1,
    });
  });
  it('passes where every event keeps its limit', () => {
    const limits = { connectionDb: 0.75, spliceDb: 0.3 };
    expect(judgeTraceEvents(analysis, limits)).toBe('pass');
    expect(judgeTraceEvents(analysis, { ...limits, spliceDb: 0.1 })).toBe('fail');
    expect(judgeTraceEvents(analysis, { ...limits, connectionDb: 0.28 })).toBe('fail');
  });
});
