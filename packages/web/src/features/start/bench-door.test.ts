// @vitest-environment happy-dom
import { type BenchDoor as Door, ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { freshPages, holds, id, openPage, settled, shows, TestServer } from '../../../test/page.ts';
import BenchDoor from './BenchDoor.vue';

freshPages();
const DOOR: Door = {
  label: 'Bench 3',
  className: 'Pier crew 1',
  people: [
    { id: id(1), name: 'Nkeiru Vasconi', role: 'instructor' },
    { id: id(2), name: 'Torvin Hale', role: 'trainee' },
  ],
};
const open = (server: TestServer, door: Door = DOOR, demo = false) => {
  void server;
  return openPage(BenchDoor, { props: { door, demo } });
};
const key = (name: string): void => void window.dispatchEvent(new KeyboardEvent('keydown', { key: name }));

describe('the door of a bench device', () => {
  it('a tap on the name and the digits of the PIN let one in', async () => {
    const server = new TestServer().on(ROUTES.enterByPin, { ...DOOR.people[1], login: 'hale' });
    const { page, press } = await open(server);
    await press('THTorvin Hale');
    for (const digit of '407') await press(digit);
    expect(
      page
        .findAll('button')
        .find((b) => b.text() === 'In')!
        .attributes('disabled'),
    ).toBeDefined();
    for (const digit of '11') await press(digit);
    await page.find('[aria-label="Take the last digit back"]').trigger('click');
    await press('In');
    await settled();
    expect(server.of(ROUTES.enterByPin)[0]!.body).toEqual({ personId: id(2), pin: '4071' });
    expect(page.emitted('entered')).toHaveLength(1);
  });
  it('goes by the keys as well, takes eight digits at most, and Escape gives the names back', async () => {
    const server = new TestServer().on(ROUTES.enterByPin, { ...DOOR.people[0], login: 'vasconi' });
    const { page, press } = await open(server);
    key('9');
    await press('NVNkeiru Vasconi');
    for (const digit of '123456789') key(digit);
    key('Backspace');
    key('Enter');
    await settled();
    expect(server.of(ROUTES.enterByPin)[0]!.body).toEqual({ personId: id(1), pin: '1234567' });
    key('Escape');
    await shows(page, 'Torvin Hale');
  });
  it('a wrong PIN says so, empties the digits, and is no word about the next person', async () => {
    const server = new TestServer().refuse(ROUTES.enterByPin, 401, 'auth.bad_pin', 'That is not the PIN.');
    const { page, press } = await open(server);
    await press('THTorvin Hale');
    for (const digit of '9058') await press(digit);
    await press('In');
    await shows(page, 'That is not the PIN.');
    expect(page.find('[role=status]').attributes('aria-label')).toBe('0 digits');
    await press('Somebody else');
    await press('NVNkeiru Vasconi');
    expect(page.text()).not.toContain('That is not the PIN.');
  });
  it('says what to do where nobody has a PIN, and what the PIN is in the demo', async () => {
    const empty = await open(new TestServer(), { ...DOOR, people: [] });
    await shows(empty.page, 'Nobody of this class has a PIN yet');
    await empty.press('Sign in with a password');
    expect(empty.page.emitted('password')).toHaveLength(1);
    const demo = await open(new TestServer(), DOOR, true);
    await shows(demo.page, 'every PIN is 4071');
  });
  it('a device that is none any more goes on with passwords', async () => {
    const server = new TestServer().refuse(ROUTES.enterByPin, 404, 'bench.none', 'No bench device.');
    const { page, press } = await open(server);
    await press('THTorvin Hale');
    for (const digit of '4071') await press(digit);
    await press('In');
    await holds(() => expect(page.emitted('password')).toHaveLength(1));
  });
});
