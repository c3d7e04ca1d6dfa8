import {
  type Criterion,
  DEFAULT_SCORING,
  type Entry,
  type EntryValue,
  isWorkedOut,
  type LossReference,
  lossTerms,
  type MethodSheet,
  type Outcome,
  partKey,
  partsOf,
  score,
  trunkMap,
} from '@clear-mark/core';

/** Whole pieces of any sheet, for the tests: good but for the named changes. */

export const nameOf = (criterion: Criterion): string => criterion.id.slice(criterion.id.lastIndexOf('/') + 1);
export const criteriaOfSheet = (sheet: MethodSheet): Criterion[] => sheet.steps.flatMap((s) => s.criteria);

export function goodValue(c: Criterion): EntryValue {
  switch (c.kind) {
    case 'check':
      return { kind: 'check', passed: true };
    case 'measure':
      return {
        kind: 'measure',
        // A length less another one is long enough for it.
        text: c.less ? '1000' : (c.band.target ?? c.band.lower?.value ?? c.band.upper!.value),
        unit: c.unit,
      };
    case 'count':
      return { kind: 'count', count: Number(c.band.lower?.value ?? c.band.upper!.value) };
    case 'timed':
      return { kind: 'timed', text: c.band.lower?.value ?? c.band.upper!.value };
    case 'grade':
      return { kind: 'grade', level: c.levels[0]!.id };
    case 'map':
      return { kind: 'map', far: trunkMap(c.trunk, c.ports) };
    case 'call':
      return { kind: 'call', said: 'pass' };
    case 'readings':
      return { kind: 'measure', text: c.band.target ?? (c.band.lower ?? c.band.upper!).value, unit: c.unit };
    case 'loss':
      throw new Error('a loss has parts');
  }
}

/** One step over the limit that the criterion has. */
export function badValue(c: Criterion): EntryValue {
  switch (c.kind) {
    case 'check':
      return { kind: 'check', passed: false };
    case 'measure':
      return {
        kind: 'measure',
        text: c.band.upper ? String(Number(c.band.upper.value) + 100) : '0',
        unit: c.unit,
      };
    case 'count':
      return {
        kind: 'count',
        count: c.band.upper ? Number(c.band.upper.value) + 1 : Number(c.band.lower!.value) - 1,
      };
    case 'timed':
      return {
        kind: 'timed',
        text: String(c.band.upper ? Number(c.band.upper.value) + 1 : Number(c.band.lower!.value) - 1),
      };
    case 'grade':
      return { kind: 'grade', level: c.levels[c.levels.length - 1]!.id };
    case 'map':
      return { kind: 'map', far: [0, ...trunkMap(c.trunk, c.ports).slice(1)] };
    case 'call':
      return { kind: 'call', said: 'fail' };
    case 'readings':
      return {
        kind: 'measure',
        text: c.band.upper ? String(Number(c.band.upper.value) + 100) : '0',
        unit: c.unit,
      };
    case 'loss':
      throw new Error('a loss has parts');
  }
}

const AT = '2026-03-02T10:00:00Z';

function entry(criterionId: string, part: string, value: EntryValue): Entry {
  return {
    id: `${criterionId} ${part}`,
    kind: 'value',
    criterionId,
    part,
    value,
    voidReason: null,
    note: null,
    authorId: 'i',
    capacity: 'instructor',
    deviceId: 'd',
    source: 'typed',
    at: AT,
    supersedes: [],
    targetId: null,
  };
}

/** Scores a whole piece as it would be signed. `lossDb` replaces the expected loss of good work. */
export function scorePiece(
  sheet: MethodSheet,
  changes: Readonly<Record<string, EntryValue>> = {},
  lossDb?: number,
): Outcome {
  const references: LossReference[] = [];
  const entries = criteriaOfSheet(sheet).flatMap((c) => {
    const parts = partsOf(c);
    if (c.kind === 'call' || isWorkedOut(c)) return [];
    if (c.kind !== 'loss') {
      // Of a grid, the change is one bad reading among good ones.
      const changed = changes[nameOf(c)];
      return parts.map((part, i) =>
        entry(c.id, partKey(part), changed && i === parts.length - 1 ? changed : goodValue(c)),
      );
    }
    return parts.map((part) => {
      const nm = part.wavelengthNm!;
      const id = `${c.id} ${partKey(part)}`;
      references.push({
        id,
        method: c.link.referenceMethod,
        wavelengthNm: nm,
        valueDbm: '-5.00',
        setAt: '2026-03-02T09:00:00Z',
        showsNegative: false,
        rereadDbm: '-5.00',
        voidReason: null,
      });
      const db = lossDb ?? lossTerms(c.link, c.rules, nm).expectedDb;
      return entry(c.id, partKey(part), { kind: 'loss', text: db.toFixed(3), unit: 'dB', referenceId: id });
    });
  });
  const context = { ...DEFAULT_SCORING, references, final: true };
  // Trainees who see what the instructor sees: a call is right unless it is the change.
  const made = score(sheet, entries, context);
  const calls = criteriaOfSheet(sheet).flatMap((c) => {
    if (c.kind !== 'call') return [];
    const about = made.criteria.find((x) => x.criterionId === c.of)?.verdict ?? 'pass';
    const truth = about === 'pass' || about === 'marginal_pass' ? 'pass' : 'fail';
    return [entry(c.id, '', changes[nameOf(c)] ?? { kind: 'call', said: truth })];
  });
  return score(sheet, [...entries, ...calls], context);
}
