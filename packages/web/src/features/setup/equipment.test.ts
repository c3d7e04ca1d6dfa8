// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { bench } from '../../../test/class-detail.ts';
import {
  CLASS,
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  shows,
  TestServer,
} from '../../../test/page.ts';
import InstrumentsPanel from './InstrumentsPanel.vue';
import ThingsPanel from './ThingsPanel.vue';

freshPages();

describe('equipment', () => {
  const panel = () =>
    openPage(ThingsPanel, {
      props: {
        classId: CLASS,
        things: [bench, { ...bench, id: id(21), kind: 'cord', label: 'Launch cord A' }],
      },
    });
  it('a label is needed, and one that is there already is told at its field', async () => {
    const server = new TestServer().refuse(
      ROUTES.addThing,
      409,
      'thing.label_taken',
      'Bench A exists already in this class.',
    );
    const { page, press, type } = await panel();
    await press('Add');
    await shows(page, 'Fill this in.');
    expect(server.of(ROUTES.addThing)).toEqual([]);
    await type('input[aria-label=Label]', 'Bench A');
    await press('Add');
    await shows(page, 'Bench A exists already in this class.');
    expect(page.get<HTMLInputElement>('input[aria-label=Label]').element.value).toBe('Bench A');
  });
  it('added, the field is free for the next, under another id', async () => {
    const server = new TestServer().on(ROUTES.addThing, {});
    const { page, press, type } = await panel();
    for (const label of ['Bench B', 'Bench C']) {
      await type('input[aria-label=Label]', label);
      await press('Add');
    }
    const sent = server.of(ROUTES.addThing).map((a) => a.body as { id: string; label: string });
    expect(sent.map((s) => s.label)).toEqual(['Bench B', 'Bench C']);
    expect(new Set(sent.map((s) => s.id)).size).toBe(2);
    expect(page.get<HTMLInputElement>('input[aria-label=Label]').element.value).toBe('');
  });
  it('taken out of use by a slip, it is put back by one tap', async () => {
    const server = new TestServer().on(ROUTES.changeThing, {});
    const { press } = await panel();
    await press('Bench A');
    await pressAnywhere('Undo');
    expect(server.of(ROUTES.changeThing).map((a) => a.body)).toEqual([{ retired: true }, { retired: false }]);
  });
  it('a cord that was never checked says so', async () => {
    new TestServer();
    expect((await panel()).page.get('[data-test=cord-checks]').text()).toContain('not checked');
  });
});

describe('instruments on the network', () => {
  const meter = { ...bench, id: id(22), kind: 'instrument', label: 'Meter 1' };
  const known = {
    thingId: meter.id,
    kind: 'power_meter',
    host: '10.0.0.7',
    port: 5025,
    readingsPerSecond: 5,
    calibratedOn: null,
    calibrationDueOn: '2026-09-01',
    claim: null,
    label: 'Meter 1',
  };
  const panel = (as: 'lead' | 'instructor' = 'lead', things: unknown[] = [meter]) =>
    openPage(InstrumentsPanel, { props: { classId: CLASS, things }, as });
  it('an instructor sees where one is, and cannot change it', async () => {
    new TestServer().on(ROUTES.instruments, [known]);
    const { page } = await panel('instructor');
    expect(page.text()).toContain('10.0.0.7:5025, calibration until 2026-09-01');
    expect(page.findAll('button')).toHaveLength(0);
  });
  it('an address that is none is told, and one that is good is set', async () => {
    const server = new TestServer().on(ROUTES.instruments, []).on(ROUTES.setInstrument, {});
    const { page, press, type } = await panel();
    await press('Connect');
    await type('input[placeholder="10.0.0.20"]', 'http://x y');
    await shows(page, 'A host name or an address, such as 10.0.0.20.');
    await press('Save');
    expect(server.of(ROUTES.setInstrument)).toEqual([]);
    await type('input[placeholder="10.0.0.20"]', '10.0.0.9');
    await press('Save');
    await holds(() => expect(server.of(ROUTES.setInstrument)).toHaveLength(1));
    expect(server.of(ROUTES.setInstrument)[0]!.body).toMatchObject({
      host: '10.0.0.9',
      port: 5025,
      calibratedOn: null,
    });
    await holds(() => expect(page.find('form').exists()).toBe(false));
  });
  it('is disconnected only when that is meant', async () => {
    const server = new TestServer().on(ROUTES.instruments, [known]).on(ROUTES.dropInstrument, {});
    const { press } = await panel();
    await press('Change');
    await press('Disconnect');
    expect(server.of(ROUTES.dropInstrument)).toEqual([]);
    await pressAnywhere('Disconnect', '.el-popconfirm');
    expect(server.of(ROUTES.dropInstrument)).toHaveLength(1);
  });
  it('with none in the class says what comes first', async () => {
    new TestServer().on(ROUTES.instruments, []);
    expect((await panel('lead', [bench])).page.text()).toContain(
      'Add an instrument or a splicer above first.',
    );
  });
});
