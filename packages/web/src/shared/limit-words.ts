import { type Criterion, type LossTerms, lossTerms, type Source } from '@clear-mark/core';
import { UNIT_WORDS } from '@clear-mark/words';

const inch = (mm: string): string => String(Math.round((Number(mm) / 25.4) * 1000) / 1000);

/** The limit of a criterion in a few words, lengths in the person's unit. */
export function limitWords(criterion: Criterion, lengthUnit: 'mm' | 'in'): string {
  switch (criterion.kind) {
    case 'measure':
    case 'readings':
    case 'count':
    case 'timed': {
      const isLength = 'unit' in criterion && criterion.unit === 'mm';
      const show = (text: string): string => (isLength && lengthUnit === 'in' ? inch(text) : text);
      const unit =
        'unit' in criterion
          ? isLength
            ? lengthUnit
            : UNIT_WORDS[criterion.unit]
          : criterion.kind === 'timed'
            ? 's'
            : criterion.noun;
      const { lower, upper } = criterion.band;
      const space = unit === '°' ? '' : ' ';
      if (lower && upper && lower.value === upper.value) return `exactly ${show(lower.value)}${space}${unit}`;
      if (lower && upper) return `${show(lower.value)} to ${show(upper.value)}${space}${unit}`;
      if (upper) return `${upper.exclusive ? 'under' : 'at most'} ${show(upper.value)}${space}${unit}`;
      return `${lower?.exclusive ? 'over' : 'at least'} ${show(lower!.value)}${space}${unit}`;
    }
    case 'loss': {
      const limits = criterion.wavelengthsNm.map((nm) => termsOf(criterion, nm).limitDb);
      return `at most ${Math.max(...limits).toFixed(2)} dB for this link${criterion.fibers ? ', each fiber' : ''}`;
    }
    case 'map':
      return `type ${criterion.trunk}, ${criterion.ports} ports`;
    case 'check':
    case 'call':
    case 'grade':
      return '';
    default: {
      const never: never = criterion;
      return never;
    }
  }
}

/** A distance in the person's unit; 1 ft = 0.3048 m exactly, shown to the tenth. */
export function distanceWords(metres: number, unit: 'm' | 'ft'): string {
  return unit === 'm' ? `${metres} m` : `${Math.round((metres / 0.3048) * 10) / 10} ft`;
}

/**
 * The sources behind a criterion: its own, and those of its limits where they say something else. The first is
 * the one to show where there is room for one: where the limit comes from.
 */
export function sourcesOf(criterion: Criterion): Source[] {
  const limits =
    'band' in criterion
      ? [criterion.band.lower, criterion.band.upper].flatMap((limit) => (limit ? [limit.source] : []))
      : [];
  const all = [...limits, criterion.source];
  return all.filter((source, i) => all.findIndex((other) => other.words === source.words) === i);
}

export function termsOf(criterion: Criterion & { kind: 'loss' }, wavelengthNm: number): LossTerms {
  return lossTerms(criterion.link, criterion.rules, wavelengthNm);
}
