import {
  CALLS,
  CAPACITIES,
  ENTRY_KINDS,
  ENTRY_SOURCES,
  FIBER_CLASSES,
  LINK_ENDS,
  POLISHES,
  TRUNK_TYPES,
  UNIT_CODES,
} from '@clear-mark/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  AttemptEntry,
  badTextAt,
  Day,
  ERRORS,
  Id,
  Instant,
  keepableText,
  Label,
  LinkPlanShape,
  MOST_WHOLE,
  Note,
  QueryNumber,
  QueryWhole,
  ROUTES,
} from './index.ts';

const id = fc.uuid();
const instant = fc
  .date({ min: new Date('2000-01-01T00:00:00Z'), max: new Date('2099-12-31T23:59:59Z'), noInvalidDate: true })
  .map((d) => d.toISOString());
const text = (most: number) =>
  fc
    .string({ minLength: 1, maxLength: most, unit: 'grapheme' })
    .map((t) => keepableText(t).trim().slice(0, most))
    .filter((t) => t !== '' && badTextAt(t) === null && t === t.trim());

describe('what a text, an id, a day and a number may be', () => {
  it('ids are UUIDs in small letters, however they were sent', () => {
    fc.assert(
      fc.property(id, (uuid) => {
        expect(Id.parse(uuid.toUpperCase())).toBe(uuid);
      }),
    );
    for (const bad of ['', 'x', '0190aaaa', '0190aaaa-0000-7000-8000-00000000000g', 7, null]) {
      expect(Id.safeParse(bad).success).toBe(false);
    }
  });
  it('instants and days lie in years that a course can have', () => {
    fc.assert(
      fc.property(instant, (at) => {
        expect(Instant.parse(at)).toBe(at);
        expect(Day.parse(at.slice(0, 10))).toBe(at.slice(0, 10));
      }),
    );
    const bad = [
      '1999-12-31T23:59:59Z',
      '2100-01-01T00:00:00Z',
      '0000-01-01T00:00:00Z',
      '2026-02-30T00:00:00Z',
    ];
    for (const at of [...bad, '2026-06-01T10:00:00+02:00', '2026-06-01', 'now', 1_780_000_000]) {
      expect([at, Instant.safeParse(at).success]).toEqual([at, false]);
    }
    for (const day of ['1999-12-31', '2026-02-29', '2026-6-1', '01.06.2026', '']) {
      expect([day, Day.safeParse(day).success]).toEqual([day, false]);
    }
  });
  it('numbers of a query are decimal, and nothing is none', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: MOST_WHOLE }), (n) => {
        expect(QueryWhole.parse(String(n))).toBe(n);
        expect(QueryWhole.parse(n)).toBe(n);
      }),
    );
    for (const bad of [
      '',
      ' 7',
      '7 ',
      '-1',
      '1.5',
      '1e3',
      '0x10',
      'NaN',
      '2147483648',
      '99999999999',
      true,
      [],
      null,
    ]) {
      expect([bad, QueryWhole.safeParse(bad).success]).toEqual([bad, false]);
    }
    expect([QueryNumber.parse('-0.75'), QueryNumber.parse('12')]).toEqual([-0.75, 12]);
    // Edges of classes of losses are sums, and sent as they are.
    fc.assert(
      fc.property(fc.double({ min: -99, max: 99, noNaN: true }), (edge) => {
        if (Math.abs(edge) > 1e-90) expect(QueryNumber.parse(String(edge))).toBe(edge);
      }),
    );
    for (const bad of ['', '.', '1,5', '1e9', '0x1', '9999999999', Infinity, NaN]) {
      expect([bad, QueryNumber.safeParse(bad).success]).toEqual([bad, false]);
    }
  });
  it('labels and notes are trimmed, not empty and not endless', () => {
    fc.assert(
      fc.property(text(60), (label) => {
        expect(Label.parse(`  ${label} `)).toBe(label);
      }),
    );
    for (const bad of ['', '   ', 'x'.repeat(61)]) expect(Label.safeParse(bad).success).toBe(false);
    expect(Note.safeParse('x'.repeat(2000)).success).toBe(true);
    expect(Note.safeParse('x'.repeat(2001)).success).toBe(false);
  });
  it('a NUL or half a character is found wherever it stands, and only there', () => {
    const bad = fc.constantFrom('\0', '\ud83d', '\udc00');
    const key = fc.constantFrom('a', 'b', 'note');
    const wrap = fc.array(fc.oneof(key, fc.constant(0)), { maxLength: 4 });
    fc.assert(
      fc.property(text(20), bad, wrap, (good, half, path) => {
        const nest = (inner: unknown): unknown =>
          path.reduceRight((value: unknown, at) => (at === 0 ? [value] : { [at]: value }), inner);
        expect(badTextAt(nest(good))).toBeNull();
        expect(badTextAt(nest(`${good}${half}`))).toBe(path.length === 0 ? 'body' : path.join('.'));
        expect(badTextAt(nest({ [`k${half}`]: 1 }))).not.toBeNull();
        expect(badTextAt(keepableText(`${good}${half}`))).toBeNull();
      }),
    );
    expect(badTextAt('😀 whole')).toBeNull();
  });
});

describe('an entry', () => {
  const value = fc.oneof(
    fc.record({ kind: fc.constant('check' as const), passed: fc.boolean() }),
    fc.record({
      kind: fc.constant('measure' as const),
      text: text(40),
      unit: fc.constantFrom(...UNIT_CODES),
    }),
    fc.record({ kind: fc.constant('count' as const), count: fc.integer() }),
    fc.record({ kind: fc.constant('grade' as const), level: text(60) }),
    fc.record({ kind: fc.constant('call' as const), said: fc.constantFrom(...CALLS) }),
    fc.record({ kind: fc.constant('timer' as const), startedAt: instant }),
    fc.record({
      kind: fc.constant('loss' as const),
      text: text(40),
      unit: fc.constantFrom(...UNIT_CODES),
      referenceId: id,
    }),
  );
  const entry = fc.record({
    id,
    attemptId: id,
    authorId: id,
    deviceId: id,
    at: instant,
    value: fc.option(value),
    kind: fc.constantFrom(...ENTRY_KINDS),
    criterionId: fc.option(text(200)),
    part: fc.constantFrom('', '1310', 'f3.850.b_a'),
    voidReason: fc.constant(null),
    note: fc.option(text(300)),
    capacity: fc.constantFrom(...CAPACITIES),
    source: fc.constantFrom(...ENTRY_SOURCES),
    supersedes: fc.array(id, { maxLength: 5 }),
    targetId: fc.option(id),
  });
  it('comes out of the wire as it went in, and not with a field more', () => {
    fc.assert(
      fc.property(entry, (sent) => {
        expect(AttemptEntry.parse(JSON.parse(JSON.stringify(sent)))).toEqual(sent);
        expect(AttemptEntry.parse({ ...sent, seq: 1, deliveredBy: id })).toEqual(sent);
      }),
    );
  });
  it('without any one of its fields is none', () => {
    fc.assert(
      fc.property(entry, (sent) => {
        for (const field of Object.keys(sent)) {
          const { [field]: _, ...rest } = sent as Record<string, unknown>;
          expect([field, AttemptEntry.safeParse(rest).success]).toEqual([field, false]);
        }
      }),
      { numRuns: 20 },
    );
  });
});

describe('a link', () => {
  const length = fc.double({ min: 0, max: 1e5, noNaN: true });
  const polish = fc.constantFrom(...POLISHES);
  const segment = fc.oneof(
    fc.record({
      kind: fc.constant('cable' as const),
      lengthM: length,
      polish,
      dbPerKm: fc.dictionary(
        fc.constantFrom('850', '1310', '1550'),
        fc.double({ min: 0.1, max: 9, noNaN: true }),
      ),
    }),
    fc.record({
      kind: fc.constant('trunk' as const),
      lengthM: length,
      polish,
      pins: fc.boolean(),
      trunk: fc.constantFrom(...TRUNK_TYPES),
    }),
    fc.record({ kind: fc.constant('cassette' as const), polish, turned: fc.boolean(), pins: fc.boolean() }),
  );
  const plan = fc.record({
    fiberClass: fc.constantFrom(...FIBER_CLASSES),
    fibers: fc.integer({ min: 1, max: 144 }),
    darkFibers: fc.uniqueArray(fc.integer({ min: 1, max: 144 }), { maxLength: 12 }),
    ends: fc.tuple(fc.constantFrom(...LINK_ENDS), fc.constantFrom(...LINK_ENDS)),
    segments: fc.array(segment, { maxLength: 6 }),
    joints: fc.array(fc.constantFrom('connection' as const, 'splice' as const), { maxLength: 5 }),
  });
  it('comes out of the wire as it went in', () => {
    fc.assert(
      fc.property(plan, (sent) => {
        const kept = JSON.parse(JSON.stringify(sent)) as unknown;
        expect(LinkPlanShape.parse(kept)).toEqual(kept);
      }),
    );
  });
  it.each([{ fibers: 0 }, { fibers: 145 }, { darkFibers: [0] }, { fiberClass: 'OM9' }, { ends: ['panel'] }])(
    'with %j is refused',
    (wrong) => {
      const good = { fiberClass: 'OS2', fibers: 12, ends: ['panel', 'panel'], segments: [], joints: [] };
      expect(LinkPlanShape.safeParse(good).success).toBe(true);
      expect(LinkPlanShape.safeParse({ ...good, ...wrong }).success).toBe(false);
    },
  );
});

describe('the table of routes', () => {
  const routes = Object.entries(ROUTES);
  it('has each address once, and what stands in an address in the shape of its parameters', () => {
    const addresses = routes.map(([, r]) => `${r.method} ${r.path}`);
    expect(new Set(addresses).size).toBe(addresses.length);
    for (const [name, route] of routes) {
      const named = [...route.path.matchAll(/:([a-zA-Z]+)/g)].map(([, at]) => at).sort();
      const shape = Object.keys((route.params as unknown as { shape: object }).shape).sort();
      expect([name, shape]).toEqual([name, named]);
    }
  });
  it('names errors that have a status', () => {
    for (const [name, route] of routes) {
      for (const code of route.errors) expect([name, code in ERRORS]).toEqual([name, true]);
    }
  });
  it('looks items through apart only where entries come in', () => {
    expect(routes.filter(([, r]) => r.itemsOneByOne).map(([name]) => name)).toEqual(['sendEntries']);
  });
});
