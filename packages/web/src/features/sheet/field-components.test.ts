// @vitest-environment happy-dom
import {
  type CriterionOutcome,
  DEFAULT_SCORING,
  type Entry,
  type EntryValue,
  type LossCriterion,
  type MeasureCriterion,
  type MethodSheet,
  score,
  type TimedCriterion,
} from '@clear-mark/core';
import { LC_WEDGE_LOCATOR, SHIPPED_METHODS } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { freshPages, id, openPage, settled, TestServer } from '../../../test/page.ts';
import CallField from './CallField.vue';
import LossField from './LossField.vue';
import MeasureField from './MeasureField.vue';
import ReadingsGrid from './ReadingsGrid.vue';
import { type GridCriterion } from './readings-grid.model.ts';
import { listCriteria, type SheetCriterion } from './sheet.model.ts';
import TimedField from './TimedField.vue';

freshPages();

/** The first criterion of a kind among the shipped methods, with the sheet that it belongs to. */
function first(wanted: (c: SheetCriterion['criterion']) => boolean): {
  sheet: MethodSheet;
  criterion: SheetCriterion['criterion'];
} {
  for (const sheet of [LC_WEDGE_LOCATOR, ...SHIPPED_METHODS]) {
    const found = listCriteria(sheet).find((c) => wanted(c.criterion));
    if (found) return { sheet, criterion: found.criterion };
  }
  throw new Error('no such criterion is shipped');
}
const entry = (criterionId: string, value: EntryValue, part = ''): Entry => ({
  id: `e-${criterionId}-${part}`,
  kind: 'value',
  criterionId,
  part,
  value,
  voidReason: null,
  note: null,
  authorId: 'me',
  capacity: 'instructor',
  deviceId: 'd',
  source: 'typed',
  at: '2026-03-02T10:00:00Z',
  supersedes: [],
  targetId: null,
});
const outcomeOf = (
  sheet: MethodSheet,
  criterionId: string,
  entries: Entry[] = [],
  references: unknown[] = [],
): CriterionOutcome =>
  score(sheet, entries, { ...DEFAULT_SCORING, references: references as never }).criteria.find(
    (c) => c.criterionId === criterionId,
  )!;
const emitted = (page: { emitted: (name: string) => unknown[][] | undefined }, name = 'value'): unknown[][] =>
  page.emitted(name) ?? [];

describe('a measurement', () => {
  const { sheet, criterion } = first(
    (c) =>
      c.kind === 'measure' &&
      c.unit === 'mm' &&
      c.less === undefined &&
      c.band.upper !== undefined &&
      c.band.lower !== undefined,
  );
  const measure = criterion as MeasureCriterion;
  const inside = String((Number(measure.band.lower!.value) + Number(measure.band.upper!.value)) / 2);
  const field = (more: object = {}) =>
    openPage(MeasureField, {
      props: {
        criterion: measure,
        entry: null,
        outcome: outcomeOf(sheet, measure.id),
        locked: false,
        lengthUnit: 'mm',
        ...more,
      },
    });
  it('is handed over by Enter, with its unit', async () => {
    const { page } = await field();
    await page.get('input').setValue(` ${inside} `);
    await page.get('input').trigger('keydown.enter');
    expect(emitted(page)).toEqual([[{ kind: 'measure', text: inside, unit: 'mm' }]]);
  });
  it('is handed over when it is left, and only where something was changed', async () => {
    const { page } = await field();
    await page.get('input').trigger('blur');
    expect(emitted(page)).toEqual([]);
    await page.get('input').setValue(inside);
    await page.get('input').trigger('blur');
    expect(emitted(page)).toHaveLength(1);
  });
  it('a slip of the decimal sign is asked about, and kept when it is meant', async () => {
    const { page } = await field();
    await page.get('input').setValue(String(Number(inside) * 10));
    await page.get('input').trigger('keydown.enter');
    expect(page.get('[role=alert]').text()).toContain('looks like a slip of the decimal sign');
    expect(emitted(page)).toEqual([]);
    await page.get('input').trigger('keydown.enter');
    expect(emitted(page)[0]![0]).toMatchObject({ slipConfirmed: true });
  });
  it('what is no number is told, and nothing is handed over', async () => {
    const { page } = await field();
    await page.get('input').setValue('about four');
    await page.get('input').trigger('keydown.enter');
    expect(page.get('[role=alert]').text().length).toBeGreaterThan(10);
    expect(page.get('input').attributes('aria-invalid')).toBe('true');
    expect(emitted(page)).toEqual([]);
  });
  it('signed, it is read only and has no button', async () => {
    const { page } = await field({ locked: true });
    expect(page.get('input').attributes('readonly')).toBeDefined();
    expect(page.findAll('button')).toHaveLength(0);
  });
});

describe('a time', () => {
  const { sheet, criterion } = first((c) => c.kind === 'timed');
  const timed = criterion as TimedCriterion;
  const place = { attemptId: id(5), classId: id(6), trainee: 'Ada' };
  const field = () =>
    openPage(TimedField, {
      props: {
        criterion: timed,
        entry: null,
        outcome: outcomeOf(sheet, timed.id),
        locked: false,
        place,
        offsetMs: 0,
      },
    });
  it('is typed as minutes and seconds', async () => {
    const { page } = await field();
    await page.get('input').setValue('1:30');
    await page.get('input').trigger('keydown.enter');
    expect(emitted(page)[0]).toEqual([{ kind: 'timed', text: '90' }, 'typed']);
  });
  it('of more than 59 seconds after the colon is told', async () => {
    const { page } = await field();
    await page.get('input').setValue('1:75');
    await page.get('input').trigger('keydown.enter');
    expect(page.get('[role=alert]').text()).toContain('more than 59 seconds');
    expect(emitted(page)).toEqual([]);
  });
  it('is started by its button', async () => {
    const { page, press } = await field();
    await press('Start');
    expect(page.emitted('start')).toHaveLength(1);
  });
});

describe('a loss test', () => {
  const { sheet, criterion } = first((c) => c.kind === 'loss' && c.fibers === undefined);
  const loss = criterion as LossCriterion;
  const nm = loss.wavelengthsNm[0]!;
  const reference = {
    id: 'r1',
    wavelengthNm: nm,
    valueDbm: '-6.00',
    instrumentLabel: 'Meter 1',
    setAt: new Date(Date.now() - 5 * 60_000).toISOString(),
    method: loss.link.referenceMethod,
    showsNegative: false,
    rereadDbm: null,
    voidReason: null,
  };
  const field = (more: object = {}) => {
    new TestServer();
    return openPage(LossField, {
      props: {
        criterion: loss,
        outcome: outcomeOf(sheet, loss.id),
        entryById: () => null,
        references: [reference],
        referenceFor: (at: number) => (at === nm ? reference : null),
        locked: false,
        attemptId: id(5),
        instrumentId: null,
        conditioned: null,
        traineeReading: () => null,
        ...more,
      },
    });
  };
  it('shows by which reference it is read and how old that is; without one nothing can be typed', async () => {
    const { page } = await field();
    const [with_, without] = page.findAll('[data-part]');
    expect(with_!.text()).toContain('ref -6.00 dBm, Meter 1');
    expect(with_!.text()).toContain('5 min old');
    expect(with_!.get('input').attributes('readonly')).toBeUndefined();
    if (without) {
      expect(without.text()).toContain('no reference yet');
      expect(without.get('input').attributes('readonly')).toBeDefined();
    }
  });
  it('says the loss while it is typed, and hands over the reading with its reference', async () => {
    const { page } = await field();
    const line = page.get('[data-part]');
    await line.get('input').setValue('-6,31');
    expect(line.text()).toContain('0.31');
    await line.get('input').trigger('keydown.enter');
    expect(emitted(page)[0]).toEqual([
      line.attributes('data-part'),
      { kind: 'loss', text: '-6,31', unit: 'dBm', referenceId: 'r1' },
    ]);
  });
  it('another unit is chosen by one tap and remembered on the device', async () => {
    const { page, press } = await field();
    await press('dB');
    await page.get('[data-part] input').setValue('0.31');
    await page.get('[data-part] input').trigger('keydown.enter');
    expect(emitted(page)[0]![1]).toMatchObject({ text: '0.31', unit: 'dB' });
    const again = await field();
    expect(again.button('dB').attributes('aria-pressed')).toBe('true');
  });
  it('no light is a reading of its own', async () => {
    const { page, press } = await field();
    await press('No light');
    expect(emitted(page)[0]![1]).toMatchObject({ kind: 'loss', noLight: true, referenceId: 'r1' });
  });
  it('what stands is shown with its verdict, and a newer entry elsewhere does not touch what is typed', async () => {
    const part =
      listCriteria(sheet).length > 0 ? (await field()).page.get('[data-part]').attributes('data-part')! : '';
    const stands = entry(loss.id, { kind: 'loss', text: '0.20', unit: 'dB', referenceId: 'r1' }, part);
    const outcome = outcomeOf(sheet, loss.id, [stands], [reference]);
    const { page } = await field({
      outcome,
      entryById: (wanted: string) => (wanted === stands.id ? stands : null),
    });
    expect(page.get<HTMLInputElement>('[data-part] input').element.value).toBe('0.20');
    await page.get('[data-part] input').setValue('0.2');
    await page.setProps({ references: [reference] });
    await settled();
    expect(page.get<HTMLInputElement>('[data-part] input').element.value).toBe('0.2');
  });
  it('asks for a reference, and once something was read for its second reading', async () => {
    const { page, press } = await field();
    await press('Set reference');
    expect(page.emitted('reference')).toHaveLength(1);
    expect(page.find('[data-test=reread-here]').exists()).toBe(false);
  });
});

describe('readings of a row of fibers', () => {
  const { sheet, criterion } = first((c) => c.kind === 'readings' && (c.fibers ?? 0) > 3);
  const grid = criterion as GridCriterion;
  const field = (more: object = {}) => {
    new TestServer();
    return openPage(ReadingsGrid, {
      props: {
        criterion: grid,
        outcome: outcomeOf(sheet, grid.id),
        entryById: () => null,
        referenceFor: () => null,
        locked: false,
        attemptId: id(5),
        instrumentId: null,
        ...more,
      },
    });
  };
  it('has a cell for each, named by its fiber, and says how many are to read', async () => {
    const { page } = await field();
    const inputs = page.findAll('input[data-number]');
    expect(inputs[0]!.attributes('aria-label')).toMatch(/^Fiber 1/);
    expect(page.text()).toContain(`${inputs.length} to read`);
  });
  it('a block from a spreadsheet is taken where it fits, what is no number is marked, what is beyond is named', async () => {
    const { page } = await field();
    const inputs = page.findAll('input[data-number]');
    const lines = ['0.1', 'x?', ...Array.from({ length: inputs.length }, () => '0.2')];
    const event = new Event('paste', { bubbles: true, cancelable: true });
    Object.assign(event, { clipboardData: { getData: () => lines.join('\n') } });
    inputs[0]!.element.dispatchEvent(event);
    await settled();
    const taken = (emitted(page, 'values')[0]?.[0] ?? []) as { part: string }[];
    expect(taken.length).toBeGreaterThan(0);
    expect(page.get('[role=alert]').text()).toContain('Fiber 2');
    expect(page.get('[role=alert]').text()).toContain('Beyond the grid and not taken');
    expect(inputs[1]!.attributes('aria-invalid')).toBe('true');
  });
  it('signed, every cell is read only', async () => {
    const { page } = await field({ locked: true });
    expect(page.findAll('input[data-number]').every((i) => i.attributes('readonly') !== undefined)).toBe(
      true,
    );
  });
});

describe('a call of the trainee', () => {
  const { criterion } = first((c) => c.kind === 'call' && c.of !== undefined);
  it('is one tap where the sheet knows what the piece is', async () => {
    const { page } = await openPage(CallField, {
      props: { criterion, entry: null, about: null, locked: false },
    });
    await page.findAll('button')[1]!.trigger('click');
    expect(emitted(page)).toEqual([[{ kind: 'call', said: 'fail' }]]);
    expect(page.text()).toContain('not judged yet on the sheet');
  });
  it('needs both where it does not', async () => {
    const { of: _, ...alone } = criterion as { of?: string };
    const { page } = await openPage(CallField, {
      props: { criterion: alone, entry: null, about: null, locked: false },
    });
    const [saysGood, , , isBad] = page.findAll('button');
    await saysGood!.trigger('click');
    expect(emitted(page)).toEqual([]);
    await isBad!.trigger('click');
    expect(emitted(page)).toEqual([[{ kind: 'call', said: 'pass', reference: 'fail' }]]);
  });
});
