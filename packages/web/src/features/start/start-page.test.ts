// @vitest-environment happy-dom
import { ROUTES } from '@clear-mark/contract';
import { describe, expect, it, vi } from 'vitest';
import { freshPages, holds, openPage, shows, TestServer } from '../../../test/page.ts';
import { useSession } from '../../session/session.ts';
import StartPage from './StartPage.vue';

freshPages();

const start = (more: object) => {
  const session = useSession();
  session.start = {
    demo: false,
    setupNeeded: false,
    me: null,
    deviceKey: null,
    needsSecondFactor: false,
    byPin: false,
    ...more,
  };
  vi.spyOn(session, 'refresh').mockResolvedValue();
  return openPage(StartPage, { as: null, at: '/start?to=/records' });
};

describe('signing in', () => {
  it('with nothing typed says so at both fields, and asks nobody', async () => {
    const server = new TestServer();
    const { page, press } = await start({});
    await press('Sign in');
    await holds(() => expect(page.findAll('.el-form-item__error')).toHaveLength(2));
    expect(server.asked.filter((a) => a.method === 'post')).toEqual([]);
  });
  it('with a wrong password tells it, and keeps the name', async () => {
    new TestServer().refuse(ROUTES.signIn, 401, 'auth.bad_credentials', 'Name and password do not match.');
    const { page, press, type } = await start({});
    await type('input[name=login]', 'brack');
    await type('input[name=password]', 'wrong');
    await press('Sign in');
    await shows(page, 'Name and password do not match.');
    expect(page.get<HTMLInputElement>('input[name=login]').element.value).toBe('brack');
  });
  it('leads to where one was going', async () => {
    const server = new TestServer().on(ROUTES.signIn, {});
    const { press, type, router } = await start({});
    await type('input[name=login]', ' BRACK ');
    await type('input[name=password]', 'a long enough phrase');
    await press('Sign in');
    await holds(() => expect(router.currentRoute.value.name).toBe('records'));
    expect(server.of(ROUTES.signIn)[0]!.body).toEqual({ login: 'brack', password: 'a long enough phrase' });
  });
});

describe('the first visit', () => {
  it('a wrong code and a weak password are told under their own fields', async () => {
    const server = new TestServer().refuse(ROUTES.setup, 403, 'auth.bad_setup_code', 'That is not the code.');
    const { page, press, type } = await start({ setupNeeded: true });
    for (const [name, text] of [
      ['code', 'AAAAA-BBBBB'],
      ['name', 'Tamsin Orrel'],
      ['login', 'orrel'],
      ['password', 'short'],
    ] as const) {
      await type(`input[name=${name}]`, text);
    }
    await press('Make the account');
    const under = (name: string): string =>
      page.get(`input[name=${name}]`).element.closest('.el-form-item')!.textContent;
    await holds(() => expect(under('code')).toContain('That is not the code.'));
    server.refuse(ROUTES.setup, 422, 'auth.weak_password', 'At least 10 characters are needed.');
    await press('Make the account');
    await holds(() => expect(under('password')).toContain('At least 10 characters are needed.'));
    await holds(() => expect(under('code')).not.toContain('That is not the code.'));
  });
});

describe('the demo and a server that is away', () => {
  it('three roles are entered by a tap each', async () => {
    const server = new TestServer().on(ROUTES.demoSignIn, {});
    const { press } = await start({ demo: true });
    await press('As a trainee');
    expect(server.of(ROUTES.demoSignIn).map((a) => a.body)).toEqual([{ role: 'trainee' }]);
  });
  it('without a server it says what to do', async () => {
    new TestServer();
    const session = useSession();
    vi.spyOn(session, 'refresh').mockResolvedValue();
    const { page } = await openPage({ ...StartPage }, { as: null });
    session.start = null;
    await holds(() => expect(page.text()).toContain('Reload when it is back.'));
  });
});
