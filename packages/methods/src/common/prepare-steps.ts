import type { Band, Source, Step } from '@clear-mark/core';
import { atLeast, between, type Criteria, type More, step, stop } from '../build.ts';
import { commonPractice, house } from '../sources.ts';

/** Steps of preparing a fiber that many methods share, each under the ids of the method that asks for it. */

/** A target with the same tolerance on either side, as exact decimal text; nobody says the tolerance. */
export function around(target: string, tolerance: string): Band {
  const places = Math.max(...[target, tolerance].map((t) => t.split('.')[1]?.length ?? 0));
  const edge = (sign: 1 | -1): string => (Number(target) + sign * Number(tolerance)).toFixed(places);
  return between(edge(-1), edge(1), house(`${tolerance} mm either way`), target);
}

export const benchReady = (c: Criteria): Step =>
  step(
    'bench-ready',
    'Bench made safe',
    'strip',
    'bench',
    'Glasses on, black mat out, tape loop or sharps container within reach, nothing to eat or drink.',
    [
      c.check(
        'glasses',
        'Safety glasses on',
        2,
        commonPractice('glasses from the first strip to the last sweep'),
        'no_glasses',
        { stop: true },
      ),
      c.check(
        'shards-ready',
        'Mat and sharps container in place',
        2,
        commonPractice('offcuts go on tape or into the container at once'),
        'no_sharps_container no_mat',
        { sampled: true },
      ),
    ],
    [stop('No stripping without safety glasses.')],
  );

const offcuts = (c: Criteria) =>
  c.check(
    'offcuts-counted',
    'All offcuts accounted for, mat swept',
    3,
    commonPractice('counted at the end'),
    'offcuts_missing not_swept',
  );

export const clearUp = (c: Criteria): Step =>
  step(
    'clear-up',
    'Bench cleared',
    'strip',
    'bench',
    'Offcuts counted into the container, mat swept, hands washed before eating or anything else.',
    [offcuts(c)],
  );

/** The end of a tested piece: what is written down, and the bench. */
export const recordAndClearUp = (c: Criteria): Step =>
  step(
    'clear-up',
    'Recorded, bench cleared',
    'test',
    'bench',
    'Fiber, direction, wavelength, method, reference value, limit. Offcuts into the container, mat swept, hands washed.',
    [
      c.check(
        'record',
        'Record complete',
        3,
        commonPractice('fiber, direction, wavelength, method, reference value, limit'),
        'record_incomplete',
      ),
      { ...offcuts(c), skill: 'strip' },
    ],
  );

export const kit = (
  c: Criteria,
  how: string,
  label = 'Right connector and parts for this fiber, caps on',
): Step =>
  step('kit', 'Kit confirmed', 'strip', 'connector', how, [
    c.check(
      'kit',
      label,
      3,
      commonPractice('confirm the kit before opening anything'),
      'wrong_connector cap_missing wrong_boot out_of_date',
      { trainee: true },
    ),
  ]);

/** `name` is kept where earlier versions of the method had another. */
export const partsOn = (c: Criteria, label: string, how: string, name = 'parts-on'): Step =>
  step('parts-on', 'Parts on first', 'strip', 'jacket', how, [
    c.check(
      name,
      label,
      5,
      commonPractice('the step people forget most; it costs the finished piece'),
      'boot_forgotten boot_reversed sleeve_forgotten wrong_order clamp_after_boot',
      { critical: true },
    ),
  ]);

export const jacket = (c: Criteria, mm: string, words: string, how: string, required = true): Step =>
  step('jacket', 'Jacket off', 'strip', 'jacket', how, [
    c.measure('jacket-length', 'Strip length (jacket)', 4, 'mm', around(mm, '2'), commonPractice(words), {
      sampled: !required,
    }),
    c.check(
      'jacket-edge',
      'Jacket edge square, no nick in the buffer',
      4,
      commonPractice('no nick in the layer below'),
      'ragged_edge yarn_cut buffer_nicked',
      { sampled: true },
    ),
  ]);

export interface BareGlass {
  readonly how: string;
  /** Strip length of buffer and coating with what it is by; left out where the card or the cleaver tells. */
  readonly length?: { readonly band: Band; readonly source: Source; readonly required: boolean };
  /** Sections that somebody says for this kind; left out where nobody does. */
  readonly bites?: { readonly least: string; readonly words: string };
  /** Wipe passes; left out where a dry wipe, or nothing, is said. */
  readonly passes?: { readonly least: string; readonly words: string };
  readonly wipe: string;
  /** Whether a clear coating is said to be looked for; else it is of the house. */
  readonly coatingSaid?: boolean;
  readonly integrity?: {
    readonly label: string;
    readonly how: string;
    readonly before: boolean;
    readonly critical?: boolean;
  };
}

/** Buffer and coating off, the glass whole and clean. */
export function bareGlass(c: Criteria, g: BareGlass): Step[] {
  const buffer = step('buffer', 'Buffer and coating off', 'strip', 'buffer', g.how, [
    ...(g.bites
      ? [
          c.count(
            'bites',
            'Sections stripped',
            2,
            'sections',
            atLeast(g.bites.least, commonPractice(g.bites.words)),
            commonPractice(g.bites.words),
            { trainee: true },
          ),
        ]
      : []),
    ...(g.length
      ? [
          c.measure(
            'bare-length',
            'Strip length (buffer and coating)',
            4,
            'mm',
            g.length.band,
            g.length.source,
            { sampled: !g.length.required },
          ),
        ]
      : []),
    c.check(
      'coating-gone',
      'No clear coating left on the glass',
      4,
      g.coatingSaid
        ? commonPractice('a fiber that still has its coating does not enter the connector')
        : house('looked for on every kind: a fiber with its coating does not enter'),
      'coating_left',
      { critical: true },
    ),
    c.check(
      'no-nick',
      'Glass and buffer without a nick',
      3,
      house('no nick in the layer below'),
      'glass_nicked buffer_nicked',
      {
        sampled: true,
      },
    ),
  ]);
  const clean = step('clean', 'Glass cleaned', 'strip', 'glass', g.wipe, [
    ...(g.passes
      ? [
          c.count(
            'wipe-passes',
            'Wipe passes with alcohol',
            3,
            'passes',
            atLeast(g.passes.least, commonPractice(g.passes.words)),
            commonPractice(`${g.passes.words}; more does no harm`),
            { trainee: true },
          ),
        ]
      : []),
    c.check(
      'not-touched',
      'Glass not touched after cleaning',
      4,
      commonPractice('clean, then never touched again'),
      'touched_after_cleaning laid_down not_cleaned',
      { sampled: true },
    ),
  ]);
  if (!g.integrity) return [buffer, clean];
  const check = step('integrity', 'Integrity check', 'strip', 'glass', g.integrity.how, [
    c.check(
      'bend-holds',
      g.integrity.label,
      3,
      commonPractice('a nicked fiber breaks now instead of inside the connector'),
      'not_bent glass_broke',
      { critical: g.integrity.critical ?? true },
    ),
  ]);
  return g.integrity.before ? [buffer, check, clean] : [buffer, clean, check];
}

/** A mark that a step reads against another; sampled unless it decides. */
export const markGap = (c: Criteria, name: string, label: string, mm: string, more: More = {}) =>
  c.measure(name, label, 2, 'mm', around(mm, '0.5'), commonPractice(`${mm} mm`), { sampled: true, ...more });
