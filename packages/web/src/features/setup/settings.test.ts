// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { DEFAULT_POLICY } from '@clear-mark/core';
import { describe, expect, it } from 'vitest';
import { detail } from '../../../test/class-detail.ts';
import {
  alerts,
  CLASS,
  freshPages,
  openPage,
  pressAnywhere,
  settled,
  shows,
  TestServer,
} from '../../../test/page.ts';
import MethodsPanel from './MethodsPanel.vue';
import PolicyForm from './PolicyForm.vue';
import PracticePanel from './PracticePanel.vue';

freshPages();

describe('methods in use', () => {
  it('with none the next step is said', async () => {
    new TestServer();
    const methods = detail().methods.map((m) => ({ ...m, inUse: false }));
    expect((await openPage(MethodsPanel, { props: { detail: detail({ methods }) } })).page.text()).toContain(
      'Switch on at least one',
    );
  });
  it('one that was switched off by a slip comes back by one tap', async () => {
    const server = new TestServer().on(ROUTES.useMethod, {});
    const { page } = await openPage(MethodsPanel, { props: { detail: detail() } });
    await page.get('[role=switch]').trigger('click');
    await page.get('.el-switch').trigger('click');
    await settled();
    const before = server.of(ROUTES.useMethod).length;
    expect(before).toBeGreaterThan(0);
    await pressAnywhere('Undo');
    expect(server.of(ROUTES.useMethod).length).toBe(before + 1);
  });
});

describe('the competence policy', () => {
  const form = () => openPage(PolicyForm, { props: { classId: CLASS, policy: DEFAULT_POLICY } });
  it('a number out of its range is told beside it, and cannot be kept', async () => {
    const server = new TestServer();
    const { page, button } = await form();
    await page.get('input').setValue('0');
    await settled();
    await shows(page, 'has to be a whole number from 1 to 120.');
    expect(button('Save the policy').attributes('disabled')).toBeDefined();
    await page.get('input').setValue('three');
    await settled();
    await shows(page, 'has to be a whole number');
    expect(server.of(ROUTES.setPolicy)).toEqual([]);
  });
  it('two numbers that contradict each other are told of the whole', async () => {
    new TestServer();
    const { page } = await form();
    const rates = page.findAll('input').filter((i) => i.attributes('inputmode') === 'decimal');
    await rates[0]!.setValue('0,5');
    await settled();
    expect(alerts(page).join()).toContain('must be under that of one who is not ready');
  });
  it('is kept, and undone as it was before', async () => {
    const server = new TestServer().on(ROUTES.setPolicy, {});
    const { page, press } = await form();
    await page.get('input').setValue('4');
    await press('Save the policy');
    await pressAnywhere('Undo');
    expect(server.of(ROUTES.setPolicy).map((a) => (a.body as { passesInARow: number }).passesInARow)).toEqual(
      [4, 3],
    );
  });
});

describe('where practitioners disagree', () => {
  const option = {
    id: 'p',
    question: 'Where is the peel begun?',
    options: [
      { id: 'a', label: 'at the end' },
      { id: 'b', label: 'in the middle' },
    ],
    default: 'a',
    reason: 'r',
    chosen: 'a',
    methods: ['Bench cleave'],
  };
  it('without methods there is nothing to choose yet', async () => {
    new TestServer().on(ROUTES.classPracticeOptions, []);
    expect((await openPage(PracticePanel, { props: { classId: CLASS } })).page.text()).toContain(
      'Choices appear with the methods in use.',
    );
  });
  it('what cannot be read is told', async () => {
    new TestServer();
    expect(alerts((await openPage(PracticePanel, { props: { classId: CLASS } })).page)[0]).toContain(
      'does not answer',
    );
  });
  it('shows the question with what ships', async () => {
    new TestServer().on(ROUTES.classPracticeOptions, [option]);
    expect((await openPage(PracticePanel, { props: { classId: CLASS } })).page.text()).toContain(
      'Where is the peel begun?',
    );
  });
});
