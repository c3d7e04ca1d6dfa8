import {
  acrossWavelengths,
  analyseTrace,
  linkBetweenCords,
  tracesFromBothEnds,
  pulseMetres,
} from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { type Plant, simulatedTrace } from './otdr-trace.ts';
import { randomPlant, USUAL_METER } from './random-plant.ts';
import { rngFrom } from './rng.ts';

const METER = USUAL_METER;
const PULSES = [10, 30, 100] as const;

describe('traces of random plants', () => {
  const rng = rngFrom(21);
  const cases = Array.from({ length: 60 }, (_, i) => {
    const pulseNs = PULSES[i % PULSES.length]!;
    const settings = { ...METER, pulseNs, noiseDb: METER.noiseDb - 2 * (i % 4) };
    const plant = randomPlant(rng, 120 + 10 * pulseMetres(settings));
    return { i, settings, plant, trace: simulatedTrace(plant, settings, rng) };
  });

  it.each(cases)(
    'case $i: every event is found where it is, none is invented',
    ({ settings, plant, trace }) => {
      const { events } = analyseTrace(trace);
      const real = events.filter((e) => !e.ghost);
      const wanted = [...plant.events.map((e) => e.positionM), plant.endM];
      expect(real.map((e) => Math.round(e.positionM))).toHaveLength(wanted.length);
      const near = Math.max(1, pulseMetres(settings) / 2);
      for (const [n, at] of wanted.entries())
        expect(Math.abs(real[n]!.positionM - at)).toBeLessThanOrEqual(near);
      expect(real.map((e) => e.kind)).toEqual([
        ...plant.events.map((e) => (e.reflectanceDb === null ? 'non_reflective' : 'reflective')),
        'end',
      ]);
    },
  );

  it('losses are right to 0.03 dB or four of their own uncertainties, reflectances to 1.5 dB', () => {
    for (const { plant, trace } of cases) {
      const real = analyseTrace(trace).events.filter((e) => !e.ghost);
      for (const [n, truth] of plant.events.entries()) {
        const { lossDb, uLossDb, reflectanceDb } = real[n]!;
        expect(Math.abs(lossDb! - truth.lossDb)).toBeLessThanOrEqual(Math.max(0.03, 4 * uLossDb!));
        if (truth.reflectanceDb === null) expect(reflectanceDb).toBeNull();
        else expect(Math.abs(reflectanceDb! - truth.reflectanceDb)).toBeLessThanOrEqual(1.5);
      }
    }
  });

  it('their uncertainties hold: at four of five losses within 1.28 of them, give or take what 200 losses leave open', () => {
    const pulls = cases.flatMap(({ plant, trace }) => {
      const real = analyseTrace(trace).events.filter((e) => !e.ghost);
      return plant.events.map((truth, n) => Math.abs(real[n]!.lossDb! - truth.lossDb) / real[n]!.uLossDb!);
    });
    const within = pulls.filter((p) => p < 1.28).length / pulls.length;
    expect(pulls.length).toBeGreaterThan(150);
    expect(within).toBeGreaterThan(0.68);
    expect(within).toBeLessThan(0.92);
  });
});

describe('faint traces', () => {
  it('of 100 plants in noise of a tenth to a fiftieth of the backscatter, 98 are read whole', () => {
    const rng = rngFrom(99);
    let whole = 0;
    for (let i = 0; i < 100; i++) {
      const settings = {
        ...METER,
        wavelengthNm: 850,
        groupIndex: 1.482,
        pulseNs: [5, 10, 20][i % 3]!,
        spacingM: 0.2,
        backscatterDb: -68,
        receiverNs: 1.6,
        noiseDb: -78 - 2 * (i % 6),
      };
      const plant = { ...randomPlant(rng, 20 + 8 * pulseMetres(settings)), dbPerKm: 2.6 };
      const real = analyseTrace(simulatedTrace(plant, settings, rng)).events.filter((e) => !e.ghost);
      const wanted = [...plant.events.map((e) => e.positionM), plant.endM];
      const near = Math.max(1, pulseMetres(settings) / 2) + settings.spacingM;
      if (real.length === wanted.length && real.every((e, n) => Math.abs(e.positionM - wanted[n]!) <= near))
        whole += 1;
    }
    expect(whole).toBeGreaterThanOrEqual(98);
  });
});

describe('a plant without events', () => {
  it.each([-98, -95, -92])('shows none at a noise of %i dB, in twenty traces', (noiseDb) => {
    const rng = rngFrom(5);
    const plant: Plant = {
      events: [],
      endM: 2500,
      endReflectanceDb: -30,
      portReflectanceDb: -50,
      dbPerKm: 0.35,
      backscatterSteps: [],
    };
    for (let n = 0; n < 20; n++) {
      const { events, endSeen } = analyseTrace(simulatedTrace(plant, { ...METER, noiseDb }, rng));
      expect(events.map((e) => e.kind)).toEqual(['end']);
      expect(endSeen).toBe(true);
    }
  });
});

describe('what is no event of the plant', () => {
  const rng = rngFrom(8);
  it('a ghost is marked, a gain is said for what it shows', () => {
    const plant: Plant = {
      events: [
        { positionM: 300, lossDb: 0.3, reflectanceDb: -18 },
        { positionM: 480, lossDb: 0.4, reflectanceDb: -17 },
      ],
      endM: 1000,
      endReflectanceDb: -45,
      portReflectanceDb: -60,
      dbPerKm: 0.35,
      backscatterSteps: [{ fromM: 800, offsetDb: 0.3 }],
    };
    const { events, spans } = analyseTrace(simulatedTrace(plant, METER, rng));
    // The ghost parts no span.
    expect(spans.map((s) => Math.round(s.toM))).toEqual([300, 480, 800, 1000]);
    for (const { dbPerKm } of spans) expect(Math.abs(dbPerKm! - 0.35)).toBeLessThan(0.02);
    expect(events.map((e) => [Math.round(e.positionM), e.kind, e.ghost])).toEqual([
      [300, 'reflective', false],
      [480, 'reflective', false],
      [660, 'reflective', true],
      [800, 'non_reflective', false],
      [1000, 'end', false],
    ]);
    expect(events[3]!.lossDb).toBeCloseTo(-0.3, 1);
  });

  it('two connectors within a pulse are two events and one loss', () => {
    const plant: Plant = {
      events: [
        { positionM: 300, lossDb: 0.3, reflectanceDb: -45 },
        { positionM: 305, lossDb: 0.4, reflectanceDb: -45 },
      ],
      endM: 700,
      endReflectanceDb: -40,
      portReflectanceDb: -50,
      dbPerKm: 0.35,
      backscatterSteps: [],
    };
    const { events, joined } = analyseTrace(
      simulatedTrace(plant, { ...METER, pulseNs: 100, receiverNs: 8 }, rng),
    );
    expect(events.map((e) => [Math.round(e.positionM), e.lossDb === null])).toEqual([
      [300, true],
      [305, true],
      [700, true],
    ]);
    expect(joined).toHaveLength(1);
    expect(joined[0]!.lossDb).toBeCloseTo(0.7, 1);
  });
});

/** The same plant from its other end: what was before a step of backscatter is now behind it. */
function turned(plant: Plant): Plant {
  const [step] = plant.backscatterSteps;
  return {
    ...plant,
    events: plant.events.map((e) => ({ ...e, positionM: plant.endM - e.positionM })).reverse(),
    backscatterSteps: step ? [{ fromM: plant.endM - step.fromM, offsetDb: -step.offsetDb }] : [],
  };
}

describe('a fiber from both ends', () => {
  const plant: Plant = {
    events: [
      { positionM: 500, lossDb: 0.2, reflectanceDb: -50 },
      { positionM: 1100, lossDb: 0.08, reflectanceDb: null },
      { positionM: 1700, lossDb: 0.3, reflectanceDb: -48 },
    ],
    endM: 2400,
    endReflectanceDb: -40,
    portReflectanceDb: -50,
    dbPerKm: 0.33,
    backscatterSteps: [{ fromM: 1100, offsetDb: 0.35 }],
  };
  const rng = rngFrom(14);
  const seen = (p: Plant) => analyseTrace(simulatedTrace(p, METER, rng));

  it('shows the true loss of a splice that gains from one side, to 0.02 dB', () => {
    const { events, onlyFromA, onlyFromB } = tracesFromBothEnds(seen(plant), seen(turned(plant)), 4);
    expect([onlyFromA, onlyFromB]).toEqual([[], []]);
    expect(events.map((e) => Math.round(e.positionM))).toEqual([500, 1100, 1700]);
    for (const [i, { lossDb }] of events.entries())
      expect(Math.abs(lossDb - plant.events[i]!.lossDb)).toBeLessThan(0.02);
    expect(events[1]!.fromA).toBeLessThan(0);
    expect(events[1]!.gainer).toBe(true);
    expect(events[1]!.fieldStepDb).toBeCloseTo(-0.35, 1);
  });

  it('shows what the step of the backscatter hides from one end', () => {
    const hiding = { ...plant, backscatterSteps: [{ fromM: 1100, offsetDb: 0.08 }] };
    const { events, onlyFromB } = tracesFromBothEnds(seen(hiding), seen(turned(hiding)), 4);
    const splice = events.find((e) => Math.round(e.positionM) === 1100)!;
    expect(splice.seenFrom).toBe('b');
    expect(Math.abs(splice.lossDb - 0.08)).toBeLessThan(0.02);
    expect(onlyFromB).toEqual([]);
  });

  it('lies between cords of other lengths from each end', () => {
    const behind = (p: Plant, launchM: number, receiveM: number): Plant => ({
      ...p,
      events: [
        { positionM: launchM, lossDb: 0.25, reflectanceDb: -50 },
        ...p.events.map((e) => ({ ...e, positionM: e.positionM + launchM })),
        { positionM: launchM + p.endM, lossDb: 0.15, reflectanceDb: -50 },
      ],
      endM: launchM + p.endM + receiveM,
      backscatterSteps: p.backscatterSteps.map((s) => ({ ...s, fromM: s.fromM + launchM })),
    });
    const a = seen(behind(plant, 600, 250));
    // From the other end the near connector is the one that loses 0.15 dB.
    const other = behind(turned(plant), 600, 250);
    const ends = [other.events[0]!, other.events.at(-1)!];
    const b = seen({
      ...other,
      events: other.events.map((e) => (ends.includes(e) ? { ...e, lossDb: e === ends[0] ? 0.15 : 0.25 } : e)),
    });
    const links = { a: linkBetweenCords(a, 600, 250)!, b: linkBetweenCords(b, 600, 250)! };
    const { events, onlyFromA, onlyFromB } = tracesFromBothEnds(a, b, 4, links);
    expect([onlyFromA, onlyFromB]).toEqual([[], []]);
    expect(events.map((e) => Math.round(e.positionM))).toEqual([600, 1100, 1700, 2300, 3000]);
    const truth = [0.25, 0.2, 0.08, 0.3, 0.15];
    for (const [i, { lossDb }] of events.entries()) expect(Math.abs(lossDb - truth[i]!)).toBeLessThan(0.02);
  });

  it('what one side alone shows is named, and another fiber is refused', () => {
    const without = { ...plant, events: plant.events.slice(0, 2) };
    const { onlyFromA, onlyFromB } = tracesFromBothEnds(seen(plant), seen(turned(without)), 4);
    expect(onlyFromA.map(Math.round)).toEqual([1700]);
    expect(onlyFromB).toEqual([]);
    expect(() => tracesFromBothEnds(seen(plant), seen({ ...plant, endM: 2500 }), 4)).toThrow(
      'trace.other_length',
    );
  });
});

describe('a fiber at several wavelengths', () => {
  const rng = rngFrom(17);
  const at = (wavelengthNm: number, dbPerKm: number, bendDb: number) => {
    const plant: Plant = {
      events: [
        { positionM: 500, lossDb: 0.25, reflectanceDb: -50 },
        { positionM: 1000, lossDb: bendDb, reflectanceDb: null },
        { positionM: 1500, lossDb: 0.12, reflectanceDb: null },
      ],
      endM: 2200,
      endReflectanceDb: -40,
      portReflectanceDb: -50,
      dbPerKm,
      backscatterSteps: [],
    };
    const trace = simulatedTrace(plant, { ...METER, wavelengthNm }, rng);
    return { wavelengthNm, analysis: analyseTrace(trace) };
  };

  it('shows a bend by its growth, whether the shortest sees it or not; connectors and splices stay', () => {
    for (const bendAt1310 of [0.08, 0.005]) {
      const traces = [at(1310, 0.33, bendAt1310), at(1550, 0.19, 0.5), at(1625, 0.22, 0.9)];
      const places = acrossWavelengths(traces, 4);
      expect(places.map((p) => [Math.round(p.positionM), p.bend])).toEqual([
        [500, false],
        [1000, true],
        [1500, false],
      ]);
      expect(places[1]!.lossesDb[0] === null).toBe(bendAt1310 < 0.02);
      expect(places[1]!.lossesDb[2]).toBeCloseTo(0.9, 1);
    }
  });

  it('growth that is small is none, and one trace alone says nothing', () => {
    const traces = [at(1310, 0.33, 0.1), at(1550, 0.19, 0.15)];
    expect(acrossWavelengths(traces, 4).some((p) => p.bend)).toBe(false);
    expect(acrossWavelengths(traces.slice(0, 1), 4)).toEqual([]);
  });
});
