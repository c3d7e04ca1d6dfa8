// @vitest-environment happy-dom
import { type BenchDevice, ROUTES } from '@clear-mark/contract';
import { describe, expect, it, vi } from 'vitest';
import { CLASS, freshPages, holds, settled, id, openPage, shows, TestServer } from '../../../test/page.ts';
import { Refusal } from '../../api/client.ts';
import { useSession } from '../../session/session.ts';
import ChangePerson from '../../shell/ChangePerson.vue';
import BenchDevicesPanel from './BenchDevicesPanel.vue';

freshPages();
const DEVICE: BenchDevice = {
  id: id(7),
  label: 'Bench 3',
  madeBy: 'Ysolde Brack',
  madeAt: '2026-06-03T12:00:00.000Z',
  here: true,
};

describe('bench devices of a class', () => {
  it('the device at hand becomes one, is named in the list, and is ended', async () => {
    const server = new TestServer()
      .on(ROUTES.benchDevices, [])
      .on(ROUTES.addBenchDevice, { done: true })
      .on(ROUTES.endBenchDevice, { done: true });
    const { page, type, press } = await openPage(BenchDevicesPanel, { props: { classId: CLASS } });
    await press('Make this a bench device');
    await shows(page, 'Fill this in.');
    await type('input[name=bench-label]', 'Bench 3');
    server.on(ROUTES.benchDevices, [DEVICE]);
    await press('Make this a bench device');
    await shows(page, 'this device');
    expect(server.of(ROUTES.addBenchDevice)[0]!.body).toMatchObject({ label: 'Bench 3' });
    server.on(ROUTES.benchDevices, []);
    await press('End Bench 3');
    await holds(() => expect(page.text()).not.toContain('Ysolde Brack'));
    expect(server.of(ROUTES.endBenchDevice)[0]!.path).toContain(DEVICE.id);
  });
});

describe('the way back to the names', () => {
  const open = () => openPage(ChangePerson, { as: 'instructor', at: '/today' });
  it('signs out and keeps the place for whoever comes next', async () => {
    new TestServer();
    const { router, press } = await open();
    const out = vi.spyOn(useSession(), 'signOut').mockResolvedValue();
    await press('Change person');
    await holds(() => expect(router.currentRoute.value.name).toBe('start'));
    expect(router.currentRoute.value.query['to']).toBe('/today');
    expect(out).toHaveBeenCalledOnce();
  });
  it('keeps the place that was asked for last, though its page is still on the way', async () => {
    new TestServer();
    const { router, press } = await open();
    vi.spyOn(useSession(), 'signOut').mockResolvedValue();
    router.addRoute({ path: '/slow', component: () => new Promise<never>(() => undefined) });
    void router.push('/slow?day=2');
    await settled();
    await press('Change person');
    await holds(() => expect(router.currentRoute.value.name).toBe('start'));
    expect(router.currentRoute.value.query['to']).toBe('/slow?day=2');
  });
  it('says why it could not, and stays', async () => {
    new TestServer();
    const { page, router, press } = await open();
    vi.spyOn(useSession(), 'signOut').mockRejectedValue(
      new Refusal('server.unavailable', 503, 'The database is away.'),
    );
    await press('Change person');
    await shows(page, 'The database is away.');
    expect(router.currentRoute.value.name).toBe('today');
  });
});
