import { DomainError } from '../domain-error.ts';
import type { MethodSheet, Step } from '../sheet/index.ts';
import { isSame } from './same.ts';

/**
 * What two people made of one sheet at the same time, put together: what only one of them changed is taken from that one,
 * step by step and for what the sheet says as a whole. Both sides may add steps; each stays behind the step that it was put
 * behind. Error: `versions.edited_twice` with the first step that both changed, or with what of the whole: `title`, `order` and
 * so on, where they did not change it to the same. Example: one changes the cleave, the other the strip: both changes stand.
 */
export function mergeSheets(base: MethodSheet, mine: MethodSheet, theirs: MethodSheet): MethodSheet {
  const merged: Record<string, unknown> = {};
  const fields = new Set([base, mine, theirs].flatMap((sheet) => Object.keys(sheet)));
  for (const field of fields) {
    if (field === 'steps') continue;
    const of = (sheet: MethodSheet): unknown => (sheet as unknown as Record<string, unknown>)[field];
    const taken = oneOfThem(of(base), of(mine), of(theirs), field);
    if (taken !== undefined) merged[field] = taken;
  }
  return { ...(merged as unknown as MethodSheet), steps: mergedSteps(base, mine, theirs) };
}

function oneOfThem<T>(base: T, mine: T, theirs: T, what: string): T {
  if (isSame(mine, theirs) || isSame(base, theirs)) return mine;
  if (isSame(base, mine)) return theirs;
  throw new DomainError('versions.edited_twice', { what });
}

function mergedSteps(base: MethodSheet, mine: MethodSheet, theirs: MethodSheet): Step[] {
  const byId = (sheet: MethodSheet): Map<string, Step> => new Map(sheet.steps.map((s) => [s.id, s]));
  const all = { base: byId(base), mine: byId(mine), theirs: byId(theirs) };
  const steps = new Map<string, Step>();
  for (const id of new Set([...all.mine.keys(), ...all.theirs.keys()])) {
    const step = oneOfThem(all.base.get(id), all.mine.get(id), all.theirs.get(id), id);
    if (step) steps.set(id, step);
  }
  return mergedOrder(base, mine, theirs, steps).map((id) => steps.get(id)!);
}

function mergedOrder(
  base: MethodSheet,
  mine: MethodSheet,
  theirs: MethodSheet,
  steps: ReadonlyMap<string, Step>,
): string[] {
  const order = (sheet: MethodSheet): string[] => sheet.steps.map((s) => s.id).filter((id) => steps.has(id));
  const inAll = (ids: string[]): string[] =>
    ids.filter((id) => [base, mine, theirs].every((sheet) => sheet.steps.some((s) => s.id === id)));
  const taken = oneOfThem(inAll(order(base)), inAll(order(mine)), inAll(order(theirs)), 'order');
  const leads = isSame(taken, inAll(order(mine))) ? mine : theirs;
  const follows = leads === mine ? theirs : mine;
  const ids = order(leads);
  for (const [i, id] of order(follows).entries()) {
    if (ids.includes(id)) continue;
    const before = order(follows)[i - 1];
    ids.splice(before === undefined ? 0 : ids.indexOf(before) + 1, 0, id);
  }
  return ids;
}
