// @vitest-environment happy-dom
import { DEFAULT_POLICY } from '@clear-mark/core';
import { contentOfTable, ROUTES, type SchoolTable } from '@clear-mark/contract';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { detail } from '../../../../test/class-detail.ts';
import { CLASS, freshPages, id, openPage, pressAnywhere, shows, TestServer } from '../../../../test/page.ts';
import ChoiceField from '../../../shared/ChoiceField.vue';
import PolicyForm from '../PolicyForm.vue';
import {
  criteriaForDrill,
  newDrill,
  newLossTable,
  newPolicy,
  saysOf,
  sourcesOf,
} from './table-edit.model.ts';
import TablesPanel from './TablesPanel.vue';

freshPages();

const kept = (
  at: number,
  table: Parameters<typeof saysOf>[0],
  more: Partial<SchoolTable> = {},
): SchoolTable =>
  ({
    ...table,
    id: id(at),
    version: 1,
    retired: false,
    editedBy: 'Wilhelmina Tarrow',
    editedAt: '2026-03-02T09:00:00.000Z',
    ...more,
  }) as SchoolTable;
const LOSS = kept(70, newLossTable('multimode', 'Office links'));
const DRILL = kept(71, { ...newDrill('cleave'), title: 'Cleaves by pairs' } as never, { version: 2 });
const POLICY = kept(72, newPolicy({ ...DEFAULT_POLICY, passesInARow: 5 }, 'Certificate course'));

describe('what a table says', () => {
  it('in a line, with its sources each once', () => {
    expect(saysOf(contentOfTable(LOSS))).toBe(
      'Multimode: connection 0.75 dB, splice 0.3 dB, 3 dB/km at 850 nm, 1.5 dB/km at 1300 nm',
    );
    expect(sourcesOf(contentOfTable(LOSS)).split('; ').length).toBeGreaterThanOrEqual(3);
    expect(saysOf(contentOfTable(DRILL))).toBe('Cleaving, the whole skill: 5 min a piece');
    expect(sourcesOf(contentOfTable(DRILL))).toBe('house: set by the school');
    expect(saysOf(contentOfTable(POLICY))).toBe('5 passes in a row, lapses after 12 months');
  });
  it('a drill is for a criterion of its skill, named once for all methods', () => {
    const cleave = criteriaForDrill([LC_WEDGE_LOCATOR, LC_WEDGE_LOCATOR], 'cleave');
    expect(cleave.map((c) => c.value)).toContain('cleave-length');
    expect(new Set(cleave.map((c) => c.value)).size).toBe(cleave.length);
    expect(criteriaForDrill([LC_WEDGE_LOCATOR], 'splice')).toEqual([]);
  });
});

describe('tables of the school', () => {
  const server = (tables: SchoolTable[] = [LOSS, DRILL, POLICY]): TestServer =>
    new TestServer()
      .on(ROUTES.schoolTables, tables)
      .on(ROUTES.ownNames, { skills: [], things: [] })
      .on(ROUTES.schoolTableVersions, [DRILL, { ...DRILL, version: 1 }]);
  const panel = () => openPage(TablesPanel, { props: { detail: detail({ methods: [] }) } });
  const sent = (s: TestServer) => s.of(ROUTES.saveSchoolTable).map((a) => a.body as Record<string, unknown>);

  it('a loss table begins as the shipped one; a figure that is changed is the school’s', async () => {
    const asked = server([]).on(ROUTES.saveSchoolTable, LOSS);
    const { page, press } = await panel();
    await press('New single-mode loss table');
    await shows(page, 'A connection may lose, dB');
    const field = page.get<HTMLInputElement>('input[aria-label="A connection may lose, dB"]');
    expect(field.element.value).toBe('0.75');
    await field.setValue('0.5');
    await field.trigger('change');
    await press('Save');
    const [body] = sent(asked);
    expect(body).toMatchObject({ from: 0, retired: false });
    expect((body!['table'] as typeof LOSS).content).toMatchObject({
      connectionDb: { db: 0.5, source: { kind: 'house', words: 'set by the school' } },
      spliceDb: { db: 0.3, source: { kind: 'standard' } },
    });
  });
  it('a drill without a way to do it is not saved, and the field is named', async () => {
    server([]);
    const { page, press } = await panel();
    await press('New drill');
    await shows(page, 'How it is done: ');
    expect(
      page
        .findAll('button')
        .find((b) => b.text() === 'Save')!
        .attributes('disabled'),
    ).toBeDefined();
  });
  it('edited, it is the next version; what somebody else saved meanwhile is told', async () => {
    const asked = server().refuse(
      ROUTES.saveSchoolTable,
      409,
      'school_table.moved',
      'Somebody else saved a version.',
    );
    const { page, press } = await panel();
    await press('Cleaves by pairs');
    const how = page.get<HTMLTextAreaElement>('textarea[aria-label="How it is done"]');
    await how.setValue('Two trainees, ten cleaves each.');
    await press('Save as version 3');
    expect(sent(asked)[0]).toMatchObject({
      from: 2,
      table: { content: { how: 'Two trainees, ten cleaves each.' } },
    });
    await shows(page, 'Somebody else saved a version.');
  });
  it('taken out of use by a slip, it is back by one tap', async () => {
    const asked = server([LOSS]).on(ROUTES.saveSchoolTable, { ...LOSS, version: 2, retired: true });
    const { press } = await panel();
    await press('Take out of use');
    await pressAnywhere('Undo');
    expect(sent(asked)).toMatchObject([
      { from: 1, retired: true },
      { from: 2, retired: false },
    ]);
  });
  it('a policy of the school is taken into the form, and nothing is saved by that', async () => {
    const asked = server();
    const { page } = await openPage(PolicyForm, { props: { classId: CLASS, policy: DEFAULT_POLICY } });
    await shows(page, 'Begin from a policy of the school');
    page.getComponent(ChoiceField).vm.$emit('change', POLICY.id);
    await page.vm.$nextTick();
    await shows(page, 'Competence policy');
    const fields = page.findAll<HTMLInputElement>('input').map((i) => i.element.value);
    expect(fields).toContain('5');
    expect(asked.of(ROUTES.setPolicy)).toEqual([]);
  });
});
