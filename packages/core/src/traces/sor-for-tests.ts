import { numbers } from '../numbers-for-tests.ts';
import type { SorContent, SorEvent } from './sor-file.ts';

/** A file's content with every field another number or text, and so many points. */
export function contentOf(seed: number, points = 50, traces = 1): SorContent {
  const rng = numbers(seed);
  const whole = (most: number): number => Math.floor(rng() * most);
  const text = (): string => Array.from({ length: whole(12) }, () => 'abc ÄÖ-7'[whole(8)]!).join('');
  const signed = (most: number): number => whole(2 * most) - most;
  return {
    general: {
      language: 'EN',
      cableId: text(),
      fiberId: text(),
      fiberType: 652,
      wavelengthNm: 1310,
      from: text(),
      to: text(),
      cableCode: text(),
      condition: 'BC',
      userOffset: signed(1e6),
      userOffsetDistance: signed(1e6),
      operator: text(),
      comment: text(),
    },
    supplier: {
      supplier: text(),
      mainframe: text(),
      mainframeSerial: text(),
      module: text(),
      moduleSerial: text(),
      software: text(),
      other: text(),
    },
    fixed: {
      seconds: whole(4e9),
      units: 'mt',
      tenthsNm: 13_100,
      offset: signed(1000),
      offsetDistance: signed(1000),
      pulsesNs: Array.from({ length: traces }, () => 1 + whole(20_000)),
      spacings: Array.from({ length: traces }, () => 1 + whole(1e6)),
      points: Array.from({ length: traces }, () => points),
      groupIndex: 146_770,
      backscatter: 795,
      averages: whole(1e9),
      averagingTenths: whole(65_536),
      range: whole(1e9),
      rangeDistance: whole(1e9),
      frontPanel: signed(1e6),
      noiseFloor: whole(65_536),
      noiseFloorScale: 1000,
      powerOffset: whole(65_536),
      lossThreshold: 20,
      reflectanceThreshold: 65_000,
      endThreshold: 3000,
      traceType: 'ST',
      windowX1: signed(1e9),
      windowY1: signed(1e9),
      windowX2: signed(1e9),
      windowY2: signed(1e9),
    },
    events: eventsOf(numbers(seed + 1000)),
    endToEnd: {
      loss: signed(50_000),
      from: whole(1e6),
      to: whole(1e6),
      returnLoss: whole(65_536),
      returnLossFrom: whole(1e6),
      returnLossTo: whole(1e6),
    },
    traces: Array.from({ length: traces }, () => ({
      scale: 1000,
      values: Uint16Array.from({ length: points }, () => whole(65_536)),
    })),
  };
}

function eventsOf(rng: () => number): SorEvent[] {
  const whole = (most: number): number => Math.floor(rng() * most);
  return Array.from({ length: whole(6) }, (_, i) => ({
    number: i + 1,
    time: whole(1e6),
    slope: whole(2000) - 1000,
    loss: whole(10_000) - 5000,
    reflectance: -whole(70_000),
    kind: '1F9999',
    method: 'LS',
    endOfPrevious: whole(1e6),
    start: whole(1e6),
    end: whole(1e6),
    startOfNext: whole(1e6),
    peak: whole(1e6),
    comment: ['', 'far end', 'ÄÖ'][whole(3)]!,
  }));
}
