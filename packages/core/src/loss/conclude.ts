import type { Direction, LinkUnderTest } from '../sheet/index.ts';
import { isSingleMode } from './link-plan.ts';
import type { LossTerms } from './loss-terms.ts';

/** One judged reading, as conclusions are drawn from it. */
export interface JudgedReading {
  readonly wavelengthNm: number;
  readonly direction: Direction | null;
  readonly fiber: number | null;
  /** Null where there is no light or no number. */
  readonly lossDb: number | null;
  readonly verdict: string;
  /** Code of the reason, such as `void.negative_loss` or `loss.no_light`. */
  readonly reason: string | null;
}

export const CONCLUSIONS = [
  'reference_bad',
  'test_void',
  'no_light',
  'multimode_into_single',
  'core_mismatch',
  'core_suspected',
  'bend',
  'one_fiber',
  'one_direction',
  'joints',
  'mode_conditioning',
  'not_conformant',
  'marginal',
  'suspect',
  'poor_work',
  'good_work',
] as const;
export type ConclusionCode = (typeof CONCLUSIONS)[number];
/** What the readings say together, with the figures that say it. */
export interface Conclusion {
  readonly code: ConclusionCode;
  readonly params: Readonly<Record<string, string | number>>;
}

export interface ConclusionInput {
  readonly link: LinkUnderTest;
  readonly terms: ReadonlyMap<number, LossTerms>;
  readonly readings: readonly JudgedReading[];
  readonly bendStepDb: number;
  /** Mandrel or mode-controlled launch; null where it was not recorded. */
  readonly conditioned: boolean | null;
}

/** Most sentences that are said of one test. */
const MOST = 2;
/** High-order modes of an unconditioned launch add about this much; common practice, from memory. */
const HIGH_ORDER_DB = 0.5;
/**
 * One way this much over the expected, the other within it: a larger core feeds a smaller one. Common practice: 62.5 into
 * 50 um loses 2 to 5 dB; a multimode core into a single-mode one far more, by the ratio of the areas 20 log(50/9) = 15 dB.
 */
const CORE_STEP_DB = 2;
const SINGLE_MODE_STEP_DB = 10;

type Numbered = JudgedReading & { readonly lossDb: number };
const round = (value: number, digits = 2): number => Math.round(value * 10 ** digits) / 10 ** digits;

/**
 * One or two conclusions from all readings of a test, the gravest first, each with its evidence: what makes the test
 * void, then what the pattern over wavelengths, directions and fibers points to, then how good the work is. Empty
 * without readings. Losses in dB. Source of the patterns: common practice.
 */
export function concludeLoss(input: ConclusionInput): readonly Conclusion[] {
  const { readings } = input;
  if (readings.length === 0) return [];
  const found = ofTest(readings);
  // A test that is void says nothing of the link.
  if (found[0] && found[0].code !== 'no_light') return found;
  found.push(...ofPattern(input));
  if (found.length === 0) found.push(...ofQuality(input));
  return found.slice(0, MOST);
}

function ofTest(readings: readonly JudgedReading[]): Conclusion[] {
  const negative = readings.find((r) => r.reason === 'void.negative_loss');
  if (negative) {
    return [
      {
        code: 'reference_bad',
        params: { loss: round(negative.lossDb ?? 0), wavelength: negative.wavelengthNm },
      },
    ];
  }
  const notConformant = readings.find((r) => r.reason?.startsWith('void.not_conformant'));
  if (notConformant) {
    return [{ code: 'not_conformant', params: { loss: round(notConformant.lossDb ?? 0) } }];
  }
  const voids = readings.filter((r) => r.verdict === 'void');
  if (voids.length > 0) return [{ code: 'test_void', params: { count: voids.length } }];
  const dark = readings.filter((r) => r.reason === 'loss.no_light');
  if (dark.length === 0) return [];
  const fibers = [...new Set(dark.flatMap((r) => r.fiber ?? []))];
  return [
    { code: 'no_light', params: { count: dark.length, of: readings.length, fibers: fibers.join(', ') } },
  ];
}

function ofPattern(input: ConclusionInput): Conclusion[] {
  const read = input.readings.filter((r): r is Numbered => r.lossDb !== null && r.verdict !== 'void');
  const core = coreMismatch(input, read);
  if (core) return [core];
  const found: Conclusion[] = [];
  const bend = isSingleMode(input.link.fiberClass) ? bendOf(input, read) : null;
  if (bend) found.push(bend);
  const failed = read.filter((r) => r.verdict === 'fail' || r.verdict === 'marginal_fail');
  if (failed.length === 0) return found;
  const worst = failed.reduce((a, b) => (b.lossDb > a.lossDb ? b : a));
  const terms = input.terms.get(worst.wavelengthNm)!;
  const params = {
    loss: round(worst.lossDb),
    limit: round(terms.limitDb),
    over: round(worst.lossDb - terms.limitDb),
    wavelength: worst.wavelengthNm,
    connections: terms.connections,
  };
  const fibers = new Set(read.map((r) => r.fiber));
  const failing = [...new Set(failed.map((r) => r.fiber))];
  if (fibers.size > 2 && failing.length === 1) {
    found.push({ code: 'one_fiber', params: { ...params, fiber: failing[0]!, others: fibers.size - 1 } });
  } else if (
    !isSingleMode(input.link.fiberClass) &&
    input.conditioned === false &&
    worst.lossDb - terms.limitDb <= HIGH_ORDER_DB
  ) {
    found.push({ code: 'mode_conditioning', params });
  } else if (oneWay(read, failed)) {
    found.push({ code: 'one_direction', params: { ...params, direction: worst.direction! } });
  } else if (!bend) found.push({ code: 'joints', params });
  const suspected = coreSuspected(input, worst, read);
  if (suspected) found.push(suspected);
  return found;
}

function coreMismatch(input: ConclusionInput, read: readonly Numbered[]): Conclusion | null {
  if (isSingleMode(input.link.fiberClass)) return null;
  const over = (r: Numbered): number => r.lossDb - input.terms.get(r.wavelengthNm)!.expectedDb;
  const high = read.find((r) => over(r) >= CORE_STEP_DB);
  if (!high?.direction) return null;
  const back = read.find(
    (r) => r.wavelengthNm === high.wavelengthNm && r.fiber === high.fiber && r.direction !== high.direction,
  );
  if (!back || over(back) >= CORE_STEP_DB / 2) return null;
  const params = { loss: round(high.lossDb), back: round(back.lossDb), direction: high.direction };
  return { code: over(high) >= SINGLE_MODE_STEP_DB ? 'multimode_into_single' : 'core_mismatch', params };
}

/**
 * From one direction alone a core that does not fit can only be suspected: read the other way, it would lose nothing there.
 * Common practice: about 3 dB into 50 um, 20 dB and more into single-mode.
 */
function coreSuspected(
  { link, terms }: ConclusionInput,
  worst: Numbered,
  read: readonly Numbered[],
): Conclusion | null {
  if (isSingleMode(link.fiberClass) || new Set(read.map((r) => r.direction)).size > 1) return null;
  const over = worst.lossDb - terms.get(worst.wavelengthNm)!.expectedDb;
  if (over < CORE_STEP_DB) return null;
  const into = over >= SINGLE_MODE_STEP_DB ? 'single-mode' : '50 µm';
  return { code: 'core_suspected', params: { over: round(over), into } };
}

function bendOf(input: ConclusionInput, read: readonly Numbered[]): Conclusion | null {
  const ordered = [...read].sort((a, b) => a.wavelengthNm - b.wavelengthNm);
  for (const long of ordered) {
    const shorter = ordered.filter(
      (r) => r.wavelengthNm < long.wavelengthNm && r.fiber === long.fiber && r.direction === long.direction,
    );
    const short = shorter[shorter.length - 1];
    if (!short || long.lossDb - short.lossDb < input.bendStepDb - 1e-6) continue;
    const params = {
      wavelength: long.wavelengthNm,
      shorter: short.wavelengthNm,
      over: round(long.lossDb - short.lossDb),
      step: input.bendStepDb,
    };
    return { code: 'bend', params };
  }
  return null;
}

/** Every failing reading goes the same way, and the other way is read and passes. */
function oneWay(read: readonly Numbered[], failed: readonly Numbered[]): boolean {
  const ways = new Set(failed.map((r) => r.direction));
  const [way] = ways;
  return ways.size === 1 && way !== null && read.some((r) => r.direction !== way);
}

function ofQuality(input: ConclusionInput): Conclusion[] {
  const read = input.readings.filter((r): r is Numbered => r.lossDb !== null && r.verdict !== 'incomplete');
  if (read.length === 0) return [];
  const termsOf = (r: Numbered): LossTerms => input.terms.get(r.wavelengthNm)!;
  const found: Conclusion[] = [];
  const marginal = read.find((r) => r.verdict === 'marginal_pass');
  if (marginal) {
    const { limitDb, uncertaintyDb } = termsOf(marginal);
    const params = {
      loss: round(marginal.lossDb),
      distance: round(limitDb - marginal.lossDb),
      uncertainty: round(uncertaintyDb),
      method: input.link.referenceMethod,
    };
    found.push({ code: 'marginal', params });
  }
  const low = read.find((r) => r.lossDb >= 0 && r.lossDb < termsOf(r).floorDb - 1e-6);
  if (low) {
    found.push({
      code: 'suspect',
      params: { loss: round(low.lossDb, 3), floor: round(termsOf(low).floorDb, 3) },
    });
  }
  const excess = (r: Numbered): number => r.lossDb - termsOf(r).expectedDb;
  const worst = read.reduce((a, b) => (excess(b) > excess(a) ? b : a));
  const { expectedDb, uncertaintyDb, connections } = termsOf(worst);
  const params = { loss: round(worst.lossDb), expected: round(expectedDb), wavelength: worst.wavelengthNm };
  if (excess(worst) > uncertaintyDb + 1e-6) {
    const each = connections > 0 ? round(excess(worst) / connections) : 0;
    found.push({ code: 'poor_work', params: { ...params, over: round(excess(worst)), connections, each } });
  } else if (found.length === 0) found.push({ code: 'good_work', params });
  return found;
}
