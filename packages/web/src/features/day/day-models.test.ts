import {
  type DayMethod,
  type DayPlanBody,
  NO_SETTINGS,
  type Stock,
  type StockThing,
} from '@clear-mark/contract';
import { buildPlan, planFaults } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { behindNow, loadsInside, loadsToCome, stationsNow, traineesNow, traysOf } from './now/now.model.ts';
import { boardRows, hourMarks, lockTurned, movedTo, wrongSteps } from './plan/board.model.ts';
import {
  emptyDay,
  fixedSteps,
  goodUntilOf,
  leftOfCourse,
  lotsOf,
  methodForSkill,
  renumbered,
  stepsFor,
  stockShorts,
  timingOf,
  wantedOf,
  withoutPieces,
} from './plan/day-draft.model.ts';
import { changeWords, faultLines, whyWords } from './plan/day-words.ts';
import { linesFor, piecesLeft, shoppingCsv } from './shopping/shopping.model.ts';
import { itemOf, serviceOf, stockRows, unitOf, usualLot, usualSettings } from './stock/stock.model.ts';
import { courseMethod, dayForTests, ITEMS, METHODS, names, thing } from './day-for-tests.ts';

const at = (day: string, time: string): string => new Date(`${day}T${time}:00Z`).toISOString();
const DAY = dayForTests();
const NONE = { wrong: new Set<string>(), moved: new Set<string>() };

describe('a day that nobody planned', () => {
  const detail = {
    instructors: [{ id: 'i1', name: 'Iva', login: 'iva', role: 'instructor' as const }],
    things: [
      { id: 's1', kind: 'splicer' as const, label: 'S 1', retired: false },
      { id: 's2', kind: 'splicer' as const, label: 'S 2', retired: true },
      { id: 'm1', kind: 'instrument' as const, label: 'M 1', retired: false },
      { id: 'o9', kind: 'instrument' as const, label: 'OTDR', retired: false },
      { id: 'b1', kind: 'bench' as const, label: 'B 1', retired: false },
    ],
  };
  const stock: Stock = {
    things: [
      thing('oven-1', 'oven', { hanging: 6, restMinutes: null }),
      { ...thing('oven-2', 'oven', {}), retired: true },
    ],
    items: [],
  };
  it('has the usual hours, what is in use, no meter that reads no loss, and ovens with their places', () => {
    const day = emptyDay('2026-09-14', detail, stock, ['o9'], { a: 'b1' }, (wall) =>
      new Date(`${wall}:00Z`).toISOString(),
    );
    expect(day.hours).toEqual([
      { from: at('2026-09-14', '08:30'), to: at('2026-09-14', '12:00') },
      { from: at('2026-09-14', '12:45'), to: at('2026-09-14', '16:30') },
    ]);
    expect(day).toMatchObject({
      stations: { splicer: ['s1'], instrument: ['m1'] },
      ovens: [{ id: 'oven-1', places: { hanging: 6, flat: 0 }, rest: 5 }],
      instructors: ['i1'],
      benches: { a: 'b1' },
      version: 0,
    });
  });
});

describe('how long a piece takes', () => {
  const timed = (median: number) => ({ n: 5, median, from: median - 4, to: median + 8 });
  const method: DayMethod = { ...METHODS[1]!, class: timed(30), trainees: { a: timed(40) } };
  it('goes by the own pieces, then by the class’s, then by the sheet; with care by the slower quarter', () => {
    expect([
      timingOf(method, 'a').of,
      timingOf(method, 'b').of,
      timingOf({ ...method, class: null }, 'b').of,
    ]).toEqual(['trainee', 'class', 'house']);
    const minutes = (who: string, pace: 'median' | 'slow', of = method) =>
      stepsFor(of, who, pace, null).reduce((sum, s) => sum + s.minutes, 0);
    expect([minutes('a', 'median'), minutes('a', 'slow'), minutes('b', 'median')]).toEqual([40, 48, 30]);
    expect(minutes('b', 'median', { ...method, class: null })).toBe(15);
  });
  it('its adhesive is used while it is good', () => {
    const lots = lotsOf([
      thing('l1', 'batch', { item: 'primer', uses: 10 }, { left: 4, goodUntil: at('2026-09-14', '11:00') }),
      thing('l2', 'batch', { item: 'acrylic', uses: 10 }, { left: 4, goodUntil: at('2026-09-20', '11:00') }),
      { ...thing('l3', 'batch', { item: 'primer', uses: 10 }, { left: 4 }), retired: true },
    ]);
    expect(goodUntilOf(METHODS[0]!, lots, DAY)).toBe(150);
    expect(goodUntilOf(METHODS[0]!, lots.slice(1), DAY)).toBeNull();
    expect(goodUntilOf(METHODS[1]!, lots, DAY)).toBeNull();
    expect(stepsFor(METHODS[0]!, 'a', 'median', 150)[0]).toMatchObject({ by: 150 });
    expect(stepsFor(METHODS[0]!, 'a', 'median', null)[0]).not.toHaveProperty('by');
  });
  it('what the stock does not reach is said by piece', () => {
    const lots = lotsOf([thing('l1', 'batch', { item: 'primer', uses: 10 }, { left: 1 })]);
    const glued = DAY.pieces.filter((p) => p.methodVersionId === METHODS[0]!.versionId);
    expect(stockShorts(DAY, METHODS, lots)).toEqual(
      glued.slice(1).map((p) => ({ pieceId: p.id, items: ['primer'] })),
    );
    expect(stockShorts(DAY, METHODS, [])).toEqual([]);
  });
  it('a skill is practised by the method that is most about it', () => {
    expect(methodForSkill(METHODS, 'splice')?.versionId).toBe(METHODS[1]!.versionId);
    expect(methodForSkill(METHODS, 'cleave')).toBeNull();
  });
});

describe('the board', () => {
  it('has a row a trainee, then ovens, then the stations that are used', () => {
    const rows = boardRows(DAY, names, NONE);
    expect(rows.map((r) => [r.group, r.label])).toEqual([
      ['trainee', 'Ada Norr'],
      ['trainee', 'Bo Vint'],
      ['oven', 'thing oven-1'],
      ['station', 'thing s1'],
    ]);
    const load = rows[2]!.blocks[0]!;
    expect([load.label, load.title]).toEqual(['2 × 25 min', '25 min, hanging: Ada Norr, Bo Vint']);
    expect(rows[3]!.blocks.map((b) => b.label)).toEqual(['AN', 'BV']);
    expect(rows[0]!.blocks.filter((b) => b.kind === 'cure')).toHaveLength(1);
    expect(
      hourMarks(DAY)
        .slice(0, 3)
        .map((m) => m.minute),
    ).toEqual([0, 30, 60]);
  });
  it('a block that is moved is locked there, takes its whole load along, and what it runs into is marked', () => {
    const block = boardRows(DAY, names, NONE)[3]!.blocks[1]!;
    const next = movedTo(DAY, block, 0);
    expect(next.locks).toEqual([{ pieceId: block.pieceId, step: block.step }]);
    const faults = planFaults(wantedOf({ ...next, locks: [] }), next.plan!);
    expect(faults.length).toBeGreaterThan(0);
    expect(wrongSteps(next, faults).has(`${block.pieceId} ${block.step}`)).toBe(true);
    const load = boardRows(DAY, names, NONE)[2]!.blocks[0]!;
    const later = movedTo(DAY, load, load.from + 10);
    expect(later.plan!.loads[0]).toMatchObject({ from: load.from + 10, to: load.to + 10 });
    expect(
      wrongSteps(later, planFaults(wantedOf({ ...later, locks: [] }), later.plan!)).size,
    ).toBeGreaterThan(0);
    expect(movedTo({ ...DAY, plan: null }, block, 5).plan).toBeNull();
    // To another station of the kind, to another oven, and nowhere else.
    const more = {
      ...DAY,
      stations: { splicer: ['s1', 's2'] },
      ovens: [DAY.ovens[0]!, { ...DAY.ovens[0]!, id: 'oven-2' }],
    };
    const unitOf = (thing: string | null) =>
      movedTo(more, block, block.from, thing).plan!.work.find(
        (w) => w.pieceId === block.pieceId && w.step === block.step,
      )!.unit;
    expect([unitOf('s2'), unitOf('oven-2'), unitOf(null)]).toEqual([2, 1, 1]);
    expect(movedTo(more, load, load.from, 'oven-2').plan!.loads[0]!.ovenId).toBe('oven-2');
  });
  it('a lock is put on and taken off', () => {
    const on = lockTurned(DAY, { pieceId: DAY.pieces[0]!.id, step: 0 });
    expect(on.locks).toHaveLength(1);
    expect(lockTurned(on, { pieceId: DAY.pieces[0]!.id, step: 0 }).locks).toEqual([]);
  });
  it('conflicts of an oven and of somebody who is away are found at their blocks', () => {
    const away: DayPlanBody = { ...DAY, away: [{ of: { kind: 'oven', id: 'oven-1' }, from: 0, to: 400 }] };
    const wrong = wrongSteps(away, planFaults(wantedOf(away), away.plan!));
    expect([...wrong]).toEqual(away.plan!.loads[0]!.members.map((m) => `${m.pieceId} ${m.step}`));
  });
});

describe('what stays when a day is planned again', () => {
  const fixedAt = (minute: number, late: Record<string, number> = {}, day = DAY) =>
    fixedSteps(day, { minute, lateBy: new Map(Object.entries(late)) }).filter((f) => f.kind === 'work')
      .length;
  it('is what was begun; who is late has done less; what is cut off is begun again', () => {
    const begun = DAY.plan!.work.filter((w) => w.from < 12).length;
    expect(fixedAt(12)).toBe(begun);
    expect(fixedAt(12, { a: 10 })).toBeLessThan(begun);
    const gone: DayPlanBody = { ...DAY, away: [{ of: { kind: 'trainee', id: 'a' }, from: 5, to: 400 }] };
    expect(fixedAt(5, {}, gone)).toBeLessThan(fixedAt(5));
    expect(fixedSteps({ ...DAY, plan: null }, null)).toEqual([]);
    const locked = lockTurned(DAY, DAY.plan!.loads[0]!.members[0]!);
    expect(fixedSteps(locked, null)).toEqual([{ kind: 'load', load: DAY.plan!.loads[0] }]);
  });
  it('a plan follows its things to their new numbers, and says what is gone', () => {
    const next = renumbered(DAY, { stations: { splicer: ['s0', 's1'] }, instructors: [], ovens: DAY.ovens });
    expect(new Set(next.plan!.work.flatMap((w) => w.unit ?? []))).toEqual(new Set([2]));
    expect(planFaults(wantedOf(next), next.plan!).some((f) => f.fault === 'overlap')).toBe(true);
  });
  it('pieces that are taken out leave nothing behind', () => {
    const rest = withoutPieces(DAY, (p) => p.traineeId === 'a');
    expect(rest.pieces.every((p) => p.traineeId === 'b')).toBe(true);
    expect(rest.plan!.loads[0]!.members).toHaveLength(1);
    expect(rest.plan!.work.every((w) => rest.pieces.some((p) => p.id === w.pieceId))).toBe(true);
    expect(withoutPieces(DAY, () => true).plan!.loads).toEqual([]);
  });
});

describe('now', () => {
  const load = DAY.plan!.loads[0]!;
  it('says what each should be doing, what comes next, and whose turn a station is', () => {
    const first = DAY.plan!.work.find((w) => w.from === 0)!;
    const who = DAY.pieces.find((p) => p.id === first.pieceId)!.traineeId;
    expect(traineesNow(DAY, 0).find((t) => t.traineeId === who)!.now).toMatchObject({ from: 0 });
    expect(traineesNow(DAY, 5000).map((t) => [t.now, t.next])).toEqual([
      [null, null],
      [null, null],
    ]);
    const splice = DAY.plan!.work.find((w) => w.unit !== null)!;
    expect(stationsNow(DAY, splice.from)[0]).toMatchObject({ thingId: 's1', now: expect.any(String) });
    expect(stationsNow(DAY, splice.from - 1)[0]!.now).toBeNull();
  });
  it('a load that was put in stands for the planned one, and counts down until it is out', () => {
    expect(loadsToCome(DAY, [])).toMatchObject([
      { ovenId: 'oven-1', minutes: 25, from: load.from, traineeIds: ['a', 'b'] },
    ]);
    const inside = {
      id: 'l',
      ovenId: 'oven-1',
      schedule: '25 min',
      members: ['a', 'b'],
      startedAt: at('2026-09-14', '09:00'),
      endsAt: at('2026-09-14', '09:25'),
      takenOutAt: null,
    };
    expect(loadsToCome(DAY, [inside])).toEqual([]);
    expect(loadsToCome(DAY, [{ ...inside, ovenId: 'another' }])).toHaveLength(1);
    expect(loadsInside([inside], Date.parse(inside.endsAt) - 90_000)[0]!.left).toBe(90);
    expect(loadsInside([inside], Date.parse(inside.endsAt) + 5000)[0]!.left).toBe(-5);
    expect(loadsInside([{ ...inside, takenOutAt: inside.endsAt }], 0)).toEqual([]);
  });
});

describe('words of a day', () => {
  const clock = (minute: number): string => `${minute} min`;
  it('say why and what would help', () => {
    expect(whyWords({ why: 'no_station', station: 'splicer' }, clock)).toBe(
      'it needs a splicer, and none is here: put one into the day',
    );
    expect(whyWords({ why: 'used_by', by: 90 }, clock)).toContain('good until 90 min only');
    expect(whyWords({ why: 'no_oven', way: 'flat' }, clock)).toContain('lying flat');
    for (const why of ['no_instructor', 'no_room'] as const) expect(whyWords({ why }, clock)).not.toBe('');
    expect(whyWords({ why: 'too_long', minutes: 300, hours: 240 }, clock)).toContain('plan it over two days');
    expect(whyWords({ why: 'step_too_long', minutes: 90, longest: 60 }, clock)).toContain('90 minutes');
    expect(changeWords({ change: 'shorter_list', pieces: 1 })).toBe('a list shorter by one piece');
    expect(changeWords({ change: 'station', station: 'splicer' })).toBe('one more splicer');
    for (const change of ['half_hour', 'hour', 'oven', 'instructor', 'second_day'] as const)
      expect(changeWords({ change })).not.toBe('');
  });
  it('count conflicts by kind', () => {
    expect(
      faultLines([
        { fault: 'overlap', of: 'x', at: 1 },
        { fault: 'overlap', of: 'x', at: 2 },
        { fault: 'ends_at', said: 1, found: 2 },
        { fault: 'order', pieceId: 'p', step: 1 },
      ]),
    ).toEqual(['two things at once (2 times)', 'a step before the one that it follows']);
  });
});

describe('the stock', () => {
  const rows: StockThing[] = [
    thing('bench-1', 'bench', {}),
    thing('a', 'scope', {}),
    thing('b', 'film', { item: 'film-3', uses: 70 }, { left: 3, warnings: ['runs_out'] }),
    thing('c', 'batch', { item: 'primer', uses: 70 }, { left: 3, warnings: ['expired'] }),
    { ...thing('d', 'film', {}), retired: true },
  ];
  it('shows the gravest first, no benches, and nothing that is out of use', () => {
    expect(stockRows(rows).map((r) => r.id)).toEqual(['c', 'b', 'a']);
  });
  it('counts each thing in its own unit, and starts it with what is usual', () => {
    expect([
      unitOf(rows[2]!, ITEMS),
      unitOf(thing('s', 'splicer', {}), ITEMS),
      unitOf(rows[1]!, ITEMS),
    ]).toEqual(['connectors', 'arcs', 'uses']);
    expect([serviceOf('splicer'), serviceOf('film')]).toEqual(['Electrodes changed', null]);
    expect(usualSettings('oven')).toEqual({ ...NO_SETTINGS, hanging: 12, flat: 4, trays: 1, restMinutes: 5 });
    expect(usualLot(itemOf(ITEMS, 'primer')!)).toMatchObject({ item: 'primer', uses: 200, openedDays: 90 });
  });
});

describe('the shopping list', () => {
  const stock: Stock = {
    things: [
      thing('w', 'supply', { item: 'wipes', uses: 280 }, { left: 30 }),
      thing('x', 'supply', { item: 'wipes', uses: 280 }, { left: 280, warnings: ['expired'] }),
    ],
    items: [...ITEMS],
  };
  const course = [
    courseMethod('clear-mark/bench-cleave', { passed: 900, failed: 100 }),
    courseMethod('clear-mark/flat-drop'),
  ];
  const linesOf = (cleaved: number, drops: number) =>
    linesFor(course, (m) => (m === course[0] ? cleaved : drops), stock);
  it('is for what is wanted, less what is there and in date, with a range', () => {
    const lines = linesOf(100, 0);
    expect(lines).toHaveLength(1);
    const [wipes] = lines;
    expect(wipes).toMatchObject({ item: 'wipes', left: 30, pack: 280, packs80: 2 });
    expect(wipes!.usual).toBeGreaterThan(400);
    expect(wipes!.at95).toBeGreaterThan(wipes!.at80);
    // Nobody made the other: it goes by the ninety percent of the first, not by nothing.
    const unknown = linesOf(0, 10)[0]!;
    expect(unknown.at95).toBeLessThan(4 * 30);
    expect(linesOf(0, 0)).toEqual([]);
  });
  it('asks of the trainees of the class what each has left, of another number the whole course', () => {
    const method = courseMethod('clear-mark/bench-cleave', { pieces: 6, made: { a: 4, b: 9 } });
    expect(piecesLeft(method, ['a', 'b', 'c'], 3)).toBe(2 + 0 + 6);
    expect(piecesLeft(method, ['a', 'b', 'c'], 10)).toBe(60);
    expect(piecesLeft({ ...method, pieces: null }, ['a'], 1)).toBe(0);
  });
  it('is a CSV with a heading and a line an item, and no formula', () => {
    const csv = shoppingCsv(linesOf(10, 0), ITEMS);
    expect(csv.split('\r\n')[0]).toBe(
      'item,unit,left,needed_middle,needed_80,needed_95,pack_of,packs_80,packs_95',
    );
    expect(csv).toContain('\r\nLint-free wipe,pieces,30,');
    const evil = ITEMS.map((i) => ({ ...i, label: '=1+1' }));
    expect(shoppingCsv(linesOf(10, 0), evil)).toContain(`"'=1+1"`);
  });
});

describe('who is behind', () => {
  const first = DAY.plan!.work.find((w) => w.pieceId === 'a-v-glued' && w.step === 0)!;
  const spliced = DAY.plan!.work.find((w) => w.pieceId === 'a-v-spliced' && w.step === 0)!;
  const glued = DAY.plan!.loads[0]!;
  const isGluedFirst = first.from < spliced.from;
  const versionId = isGluedFirst ? 'v-glued' : 'v-spliced';
  const other = isGluedFirst ? 'v-spliced' : 'v-glued';
  const begins = isGluedFirst ? first : spliced;
  const begun = (stepNumber: number) => [{ traineeId: 'a', versionId, stepNumber }];
  it('is read from the piece that is not begun, and from the step at which an open one is', () => {
    const at = begins.from + 20;
    expect(behindNow(DAY, at, [], [], METHODS).get('a')).toBe(20);
    expect(behindNow(DAY, begins.to + 7, begun(1), [], METHODS).get('a')).toBe(7);
    expect(behindNow(DAY, begins.to, begun(1), [], METHODS).has('a')).toBe(false);
    // At the second step while the first is still planned: ahead.
    expect(behindNow(DAY, begins.to - 1, begun(2), [], METHODS).has('a')).toBe(false);
  });
  it('goes on from what was signed', () => {
    const signed = [{ traineeId: 'a', versionId, n: 1 }];
    const next = Math.min(
      ...[...DAY.plan!.work].filter((w) => w.pieceId === `a-${other}`).map((w) => w.from),
    );
    expect(behindNow(DAY, next + 3, [], signed, METHODS).get('a')).toBe(3);
    const all = [...signed, { traineeId: 'a', versionId: other, n: 1 }];
    expect(behindNow(DAY, 400, [], all, METHODS).has('a')).toBe(false);
  });
  it('counts no break', () => {
    // 8:30 to 12:00 are 210 minutes, and it goes on at 12:45.
    const shut = behindNow(DAY, 250, [], [], METHODS).get('a')!;
    expect(shut).toBe(210 - begins.from);
    expect(glued.way).toBe('hanging');
  });
});

describe('what a trainee has left of the course', () => {
  const course = [
    courseMethod('clear-mark/acrylic-primer', { pieces: 4, made: { a: 1 } }),
    courseMethod('clear-mark/bench-cleave', { pieces: 9 }),
  ];
  it('is what is asked for, less what passed and what is planned; methods that are not in use ask for nothing', () => {
    const left = leftOfCourse(course, METHODS, DAY, ['a', 'b'], 5);
    expect(left.map((l) => [l.method.versionId, l.traineeId, l.count])).toEqual([
      ['v-glued', 'a', 2],
      ['v-glued', 'b', 3],
    ]);
    expect(leftOfCourse(course, METHODS, DAY, ['a', 'b'], 1).map((l) => l.count)).toEqual([1, 1]);
  });
});

describe('trays', () => {
  it('are filled one after the other; one tray is one list', () => {
    const oven = { id: 'o', places: { hanging: 0, flat: 4 }, trays: 2, rest: 5 };
    expect(traysOf(['a', 'b', 'c'], oven)).toEqual([['a', 'b'], ['c']]);
    expect(traysOf(['a', 'b', 'c'], { ...oven, trays: 1 })).toEqual([['a', 'b', 'c']]);
    expect(traysOf(['a'], undefined)).toEqual([['a']]);
  });
});

it('a plan of the day for tests holds', () => {
  const wanted = wantedOf(DAY);
  expect(planFaults(wanted, DAY.plan!)).toEqual([]);
  expect(buildPlan(wanted, []).left).toEqual([]);
});
