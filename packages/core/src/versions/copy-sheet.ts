import type { Criterion, MethodSheet, PracticeChange, PracticeOption, Step } from '../sheet/index.ts';

/** Methods of a school's own have ids under this; all others ship with the application. */
export const OWN_METHODS = 'own/';

/** Whether a method is a school's own. Input: its id. Example: `own/short-cleave`. */
export const isOwnMethod = (methodId: string): boolean => methodId.startsWith(OWN_METHODS);

/**
 * A sheet as a method of its own: the same steps under the new method's id, every criterion's id and all that names one put
 * under it. Input: a method's id such as `own/short-cleave`, a title. Output: version 1. Example: `clear-mark/wedge/strip`
 * copied to `own/short` is `own/short/strip`.
 */
export function copySheet(sheet: MethodSheet, methodId: string, title: string): MethodSheet {
  const renamed = (id: string): string => `${methodId}/${id.split('/').pop()!}`;
  const criterion = (c: Criterion): Criterion => {
    const own = { ...c, id: renamed(c.id) } as Criterion;
    if (own.kind === 'measure') {
      return {
        ...own,
        ...(own.less === undefined ? {} : { less: renamed(own.less) }),
        ...(own.rangeOf === undefined ? {} : { rangeOf: renamed(own.rangeOf) }),
      };
    }
    if (own.kind === 'call' && own.of !== undefined) return { ...own, of: renamed(own.of) };
    return own.kind === 'loss' && own.conditionedBy !== undefined
      ? { ...own, conditionedBy: renamed(own.conditionedBy) }
      : own;
  };
  const step = (s: Step): Step => ({ ...s, criteria: s.criteria.map(criterion) });
  const change = (c: PracticeChange): PracticeChange => {
    if (c.change === 'add_step') return { ...c, step: step(c.step) };
    return 'criterion' in c ? { ...c, criterion: renamed(c.criterion) } : c;
  };
  const practice = (p: PracticeOption): PracticeOption => ({
    ...p,
    options: p.options.map((o) => ({ ...o, changes: o.changes.map(change) })),
  });
  const { schools, chosen: _chosen, onLink: _onLink, ...rest } = sheet;
  return {
    ...rest,
    id: methodId,
    version: 1,
    title,
    steps: sheet.steps.map(step),
    ...(schools ? { schools: schools.map(practice) } : {}),
  };
}

/**
 * A sheet with nothing on it but the usual caution about glass, to begin a method from. Input: the method's id and its
 * title. Example: `emptySheet('own/closure', 'Closure work')`.
 */
export function emptySheet(methodId: string, title: string): MethodSheet {
  return {
    id: methodId,
    version: 1,
    title,
    summary: '',
    pieceKind: 'connector',
    fiberClass: 'OS2',
    passMarkPercent: 80,
    passMarkSource: { kind: 'house', fromMemory: false, words: 'set by the school' },
    cautions: [
      { text: 'Eye protection on. Every offcut of glass goes into the shard bin at once.', stop: true },
    ],
    thingsUsed: ['bench'],
    steps: [{ id: 'first', title: 'First step', skill: 'strip', place: 'jacket', how: '', criteria: [] }],
  };
}
