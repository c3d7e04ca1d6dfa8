import type { Entry, EntryValue, LossReference } from './types.ts';

export * from '../sheet/sheet-for-tests.ts';

/** Makers of entries and references, shared by the tests. */
let serial = 0;
export function entry(criterionId: string, value: EntryValue | null, more: Partial<Entry> = {}): Entry {
  serial += 1;
  return {
    id: `e${String(serial).padStart(6, '0')}`,
    kind: 'value',
    criterionId,
    part: '',
    value,
    voidReason: null,
    note: null,
    authorId: 'instructor',
    capacity: 'instructor',
    deviceId: 'tablet',
    source: 'typed',
    at: '2026-03-02T10:00:00.000Z',
    supersedes: [],
    targetId: null,
    ...more,
  };
}
export const passed = (id: string, more: Partial<Entry> = {}): Entry =>
  entry(id, { kind: 'check', passed: true }, more);
export const failed = (id: string, more: Partial<Entry> = {}): Entry =>
  entry(id, { kind: 'check', passed: false }, more);
export const mm = (id: string, text: string, unit: 'mm' | 'in' = 'mm'): Entry =>
  entry(id, { kind: 'measure', text, unit });
export const retract = (target: Entry, more: Partial<Entry> = {}): Entry =>
  entry(target.criterionId!, null, { kind: 'retract', targetId: target.id, part: target.part, ...more });

export const reference = (nm: number, more: Partial<LossReference> = {}): LossReference => ({
  id: `ref${nm}`,
  method: 'single_cord',
  wavelengthNm: nm,
  valueDbm: '-5.00',
  setAt: '2026-03-02T09:00:00.000Z',
  showsNegative: false,
  rereadDbm: null,
  voidReason: null,
  ...more,
});
export const reading = (nm: number, text: string, more: object = {}): Entry =>
  entry(
    'loss',
    { kind: 'loss', text, unit: 'dBm', referenceId: `ref${nm}`, ...more },
    { part: String(nm), source: 'instrument' },
  );
