import {
  COEFFICIENT_RANGE,
  type LaunchAdvice,
  type LightSource,
  type LinkChange,
  type RowSpread,
  type TypedCoefficient,
} from '@clear-mark/core';
import { DIRECTION_WORDS } from './names.ts';

export const LIGHT_WORDS: Readonly<Record<LightSource, string>> = {
  laser: 'Laser source',
  led: 'LED source',
  transceiver: 'Transceiver',
};

const short = (x: number): string => String(Number(x.toPrecision(2)));
const two = (x: number): string => x.toFixed(2);

/** What is wrong with a typed coefficient of a fiber; null for a good one. */
export function coefficientProblem(typed: TypedCoefficient): string | null {
  switch (typed.kind) {
    case 'coefficient':
      return null;
    case 'empty':
      return 'Give a coefficient: an empty field is none.';
    case 'not_a_coefficient':
      return `“${typed.text}” is no coefficient. Write it like 0.35, 1 dB per 1000 ft or 0.1 dB per 100 m.`;
    case 'out_of_range': {
      const { least, most } = COEFFICIENT_RANGE;
      return `“${typed.text}” is ${short(typed.dbPerKm)} dB/km: a fiber loses ${least} to ${most} dB/km.`;
    }
    case 'forms_disagree': {
      const { first, second } = typed;
      return `“${second.text}” is ${two(second.dbPerKm)} dB/km, not ${short(first.dbPerKm)}: one of the two is a slip.`;
    }
    default:
      return typed satisfies never;
  }
}

/** How the launch of a multimode test is conditioned, a sentence each, what defeats it last. */
export function launchWords({ turns, mandrelMm, notes }: LaunchAdvice): readonly string[] {
  const wrap =
    mandrelMm === null
      ? 'No mandrel is known for this core.'
      : `${turns === 5 ? 'Five' : String(turns)} turns, side by side, on a mandrel of ${mandrelMm} mm (TIA-568, from memory; follow your own copy).`;
  return [
    wrap,
    ...notes.map((note) =>
      note === 'bend_insensitive'
        ? 'A bend-insensitive cord defeats the mandrel: it hardly feels the turns. Take a launch cord of ordinary fiber, or a mode-controlled one.'
        : '50 µm for 10 Gb/s and more asks for an encircled-flux launch (IEC 61280-4-1, from memory): a mode-controlled cord in place of the mandrel.',
    ),
  ];
}

/** How the fibers of a row differ at one wavelength, and which stand apart. */
export function rowSpreadWords({
  wavelengthNm,
  direction,
  least,
  most,
  spreadDb,
  medianDb,
  outliers,
}: RowSpread): string {
  const where = `${wavelengthNm} nm${direction ? `, ${DIRECTION_WORDS[direction]}` : ''}`;
  const range = `${where}: loss range ${two(spreadDb)} dB, from ${two(least.lossDb)} (fiber ${least.fiber}) to ${two(most.lossDb)} (fiber ${most.fiber}), median ${two(medianDb)}.`;
  if (outliers.length === 0) return `${range} No fiber stands apart.`;
  const apart = outliers
    .map(
      (o) =>
        `${o.fiber} (${two(Math.abs(o.fromMedianDb))} dB ${o.fromMedianDb > 0 ? 'more' : 'less'} than the median)`,
    )
    .join(', ');
  return `${range} Look at fiber ${apart}.`;
}

const CHANGE_WORDS: Readonly<Record<LinkChange['change'], string>> = {
  same: 'no change',
  better: 'better',
  worse: 'worse',
  light_lost: 'light lost',
  light_found: 'light found',
  dark: 'still no light',
};

/** What became of a reading between two tests of a link. */
export function linkChangeWords({ change, agreement }: LinkChange): string {
  if (agreement === null) return CHANGE_WORDS[change];
  const by = two(Math.abs(agreement.differenceDb));
  const most = two(agreement.mostDb);
  return change === 'same'
    ? `no change: ${by} dB apart, two readings of one link differ by up to ${most}`
    : `${CHANGE_WORDS[change]} by ${by} dB, more than the ${most} dB that two readings of one link differ by`;
}
