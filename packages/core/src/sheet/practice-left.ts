import type { MethodSheet, PracticeChange, PracticeOption } from './types.ts';

/**
 * A sheet whose practice options name only what it has: what a removed step or criterion was named by goes with it, and a
 * question none of whose options says anything any more goes as well. A sheet without options is given back as it is.
 */
export function practiceLeft(sheet: MethodSheet): MethodSheet {
  const { schools, ...rest } = sheet;
  if (!schools) return sheet;
  const steps = new Set(sheet.steps.map((s) => s.id));
  const criteria = new Set(sheet.steps.flatMap((s) => s.criteria.map((c) => c.id)));
  const holds = (change: PracticeChange): boolean => {
    if ('criterion' in change) return criteria.has(change.criterion);
    if (change.change === 'add_step') return steps.has(change.after);
    return change.change === 'how' ? steps.has(change.step) : true;
  };
  const left = schools.flatMap((practice): PracticeOption[] => {
    const options = practice.options.map((o) => ({ ...o, changes: o.changes.filter(holds) }));
    const lost = options.some((o, i) => o.changes.length < practice.options[i]!.changes.length);
    // Another class of fiber alone changes nothing that is scored.
    const says = options.some((o) => o.changes.some((c) => c.change !== 'fiber_class'));
    return lost && !says ? [] : [lost ? { ...practice, options } : practice];
  });
  return left.length > 0 ? { ...rest, schools: left } : rest;
}
