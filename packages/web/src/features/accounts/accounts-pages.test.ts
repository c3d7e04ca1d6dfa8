// @vitest-environment happy-dom
import { type AccountState, type AuditEvent, ROUTES } from '@clear-mark/contract';
import { ERASURE_STAYS } from '@clear-mark/words';
import { ElInput } from 'element-plus';
import { describe, expect, it, vi } from 'vitest';
import {
  CLASS,
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  settled,
  shows,
  TestServer,
} from '../../../test/page.ts';
import { useSession } from '../../session/session.ts';
import ActMenu from '../../shared/ActMenu.vue';
import QrCode from '../../shared/QrCode.vue';
import AccountPage from './AccountPage.vue';
import { actsOf, codeIn, joinAddress, stateOf } from './accounts.model.ts';
import AccountsPanel from './AccountsPanel.vue';
import CodeDialog from './CodeDialog.vue';
import EraseDialog from './EraseDialog.vue';
import JoinPage from './JoinPage.vue';
import RightsPanel from './RightsPanel.vue';
import TrailPanel from './TrailPanel.vue';

freshPages();

const account = (more: Partial<AccountState> = {}): AccountState => ({
  id: id(2),
  name: 'Torvin Hale',
  login: 'hale',
  role: 'trainee',
  classes: [{ id: CLASS, name: 'Pier crew 1' }],
  signsIn: true,
  disabled: false,
  erased: false,
  pin: false,
  secondFactor: false,
  codeUntil: null,
  lastSignIn: null,
  ...more,
});
const CODE = { code: 'ABCDE-FGHJK-23456', until: '2026-06-03T12:00:00.000Z', mail: false };

describe('what a lead can do with an account', () => {
  it('goes by how it stands', () => {
    const acts = (more: Partial<AccountState>) => actsOf(account(more)).map((a) => a.value);
    expect(acts({})).toEqual(['code', 'edit', 'sessions', 'close', 'held', 'erase']);
    expect(acts({ signsIn: false })).toEqual(['code', 'edit', 'close', 'held', 'erase']);
    expect(acts({ secondFactor: true, codeUntil: CODE.until })).toEqual([
      'code',
      'edit',
      'withdraw',
      'sessions',
      'factor',
      'close',
      'held',
      'erase',
    ]);
    expect(acts({ disabled: true })).toEqual(['open', 'held', 'erase']);
    expect(acts({ disabled: true, erased: true })).toEqual(['held']);
  });
  it('is said in words', () => {
    expect(stateOf(account())).toBe('can sign in');
    expect(stateOf(account({ signsIn: false }))).toBe('cannot sign in');
    expect(stateOf(account({ signsIn: false, codeUntil: CODE.until }))).toBe('invited');
    expect(stateOf(account({ codeUntil: CODE.until }))).toBe('new password asked for');
    expect(stateOf(account({ disabled: true }))).toBe('closed');
    expect(stateOf(account({ disabled: true, erased: true }))).toBe('erased');
  });
  it('a code goes into an address and comes out of it, behind the #', () => {
    const address = joinAddress('https://school.example', CODE.code);
    expect(codeIn(new URL(address).hash)).toBe(CODE.code);
    expect(new URL(address).pathname + new URL(address).search).not.toContain('ABCDE');
  });
});

describe('accounts', () => {
  it('an invitation shows its code once, with an address to scan', async () => {
    const server = new TestServer().on(ROUTES.accounts, [account()]).on(ROUTES.inviteAccount, CODE);
    const { page, type, press } = await openPage(AccountsPanel, { as: 'lead' });
    await shows(page, 'Pier crew 1');
    await press('Make a code');
    await shows(page, 'Fill this in.');
    expect(server.of(ROUTES.inviteAccount)).toEqual([]);
    await type('input[name=invite-name]', 'Odalys Venn');
    await press('Make a code');
    await holds(() => expect(document.body.textContent).toContain(CODE.code));
    expect(document.querySelector('[role=img][aria-label^="The address"]')).not.toBeNull();
    expect(server.of(ROUTES.inviteAccount)[0]!.body).toMatchObject({
      name: 'Odalys Venn',
      role: 'instructor',
    });
  });
  it('a school with a mail server has the code sent, and hears what the server says of it', async () => {
    const server = new TestServer();
    const given = { ...CODE, mail: true };
    await openPage(CodeDialog, { props: { id: id(2), name: 'Odalys Venn', given } });
    const said = (words: string) => holds(() => expect(document.body.textContent).toContain(words));
    const field = () => document.querySelector<HTMLInputElement>('input[name=mail-to]')!;
    const write = async (text: string): Promise<void> => {
      field().value = text;
      field().dispatchEvent(new Event('input'));
      await settled();
    };
    await write('not an address');
    await pressAnywhere('Send the mail');
    await settled();
    expect(server.of(ROUTES.mailCode)).toEqual([]);
    server.refuse(ROUTES.mailCode, 502, 'mail.refused', 'The mail was not taken: 550 no such mailbox.');
    await write('venn@post.example');
    await pressAnywhere('Send the mail');
    await said('550 no such mailbox');
    server.on(ROUTES.mailCode, { done: true });
    await pressAnywhere('Send the mail');
    await said('The mail server took the mail to venn@post.example.');
    expect(server.of(ROUTES.mailCode).at(-1)!.body).toEqual({ code: CODE.code, to: 'venn@post.example' });
  });
  it('without a mail server no mail is offered', async () => {
    new TestServer();
    await openPage(CodeDialog, { props: { id: id(2), name: 'Odalys Venn', given: CODE } });
    expect(document.querySelector('input[name=mail-to]')).toBeNull();
  });
  it('closing an account is taken back by one tap', async () => {
    const server = new TestServer()
      .on(ROUTES.accounts, [account()])
      .on(ROUTES.disableAccount, { done: true });
    const { page } = await openPage(AccountsPanel, { as: 'lead' });
    await shows(page, 'Torvin Hale');
    page.getComponent(ActMenu).vm.$emit('choose', 'close');
    await settled();
    await pressAnywhere('Undo');
    expect(server.of(ROUTES.disableAccount).map((a) => a.body)).toEqual([
      { disabled: true },
      { disabled: false },
    ]);
  });
  it('the last lead stays one: the refusal stands under the role', async () => {
    new TestServer()
      .on(ROUTES.accounts, [account({ role: 'lead' })])
      .refuse(ROUTES.changeAccount, 409, 'account.last_lead', 'This is the last lead.');
    const { page } = await openPage(AccountsPanel, { as: 'lead' });
    await shows(page, 'Torvin Hale');
    page.getComponent(ActMenu).vm.$emit('choose', 'edit');
    await settled();
    await pressAnywhere('Save');
    await holds(() => expect(document.body.textContent).toContain('This is the last lead.'));
  });
  it('are found by name, sign-in name and role', async () => {
    new TestServer().on(ROUTES.accounts, [
      account(),
      account({ id: id(3), name: 'Ysolde Brack', role: 'lead' }),
    ]);
    const { page, type } = await openPage(AccountsPanel, { as: 'lead' });
    await shows(page, 'Ysolde Brack');
    await type('input[aria-label="Find by name or role"]', 'LEAD');
    expect(page.find('[data-test=accounts]').text()).not.toContain('Torvin Hale');
  });
});

describe('erasing a person', () => {
  const outlook = (more: object = {}) => ({
    name: 'Torvin Hale',
    pieces: 3,
    notes: 2,
    reasons: 0,
    gradings: 1,
    pictures: 1,
    sharedPictures: 0,
    openPieces: [],
    ...more,
  });
  const dialog = async (more: object = {}) => {
    const server = new TestServer()
      .on(ROUTES.accounts, [account()])
      .on(ROUTES.erasureOutlook, outlook(more))
      .on(ROUTES.erasePerson, {
        token: 'Erased person 4F2A9C01',
        notes: 1,
        lateNotes: 1,
        reasons: 0,
        gradings: 1,
        labels: 0,
        pictures: 1,
        sharedPictures: 2,
      });
    const { page } = await openPage(AccountsPanel, { as: 'lead' });
    await shows(page, 'Torvin Hale');
    page.getComponent(ActMenu).vm.$emit('choose', 'erase');
    await settled();
    return { server, dialog: page.getComponent(EraseDialog) };
  };
  const button = (): HTMLButtonElement =>
    [...document.querySelectorAll('button')].find((b) => b.textContent.includes('Erase for good'))!;

  it('says what goes and what stays, and waits for the name', async () => {
    const { server, dialog: page } = await dialog();
    const said = () => document.body.textContent;
    await holds(() => expect(said()).toContain('3 pieces keep a made-up name instead'));
    expect(said()).toContain('2 notes, 1 remark on a picture');
    for (const line of ERASURE_STAYS) expect(said()).toContain(line);
    expect(button().disabled).toBe(true);
    await page.getComponent(ElInput).setValue('Torvin');
    expect(button().disabled).toBe(true);
    await page.getComponent(ElInput).setValue(' Torvin Hale ');
    expect(button().disabled).toBe(false);
    button().click();
    await holds(() => expect(said()).toContain('Erased person 4F2A9C01'));
    expect(server.of(ROUTES.erasePerson)[0]!.body).toEqual({ name: 'Torvin Hale' });
    expect(said()).toContain('2 notes erased');
    expect(said()).toContain('2 pictures left');
    expect(said()).not.toContain('0 labels');
  });
  it('is hindered by open pieces, which it names', async () => {
    const { dialog: page } = await dialog({ openPieces: ['T-77'] });
    await holds(() => expect(document.body.textContent).toContain('Still open: T-77'));
    await page.getComponent(ElInput).setValue('Torvin Hale');
    expect(button().disabled).toBe(true);
  });
});

describe('the trail', () => {
  const event = (seq: number, more: Partial<AuditEvent> = {}): AuditEvent => ({
    seq,
    at: '2026-06-03T12:00:00.000Z',
    kind: 'account_role',
    by: 'Ysolde Brack',
    person: 'Torvin Hale',
    className: null,
    detail: 'trainee to instructor',
    ...more,
  });
  it('says who did what to whom, and goes on before the last one shown', async () => {
    const server = new TestServer().on(ROUTES.audit, ({ query }: { query: URLSearchParams }) =>
      query.get('before') === null
        ? { events: [event(9), event(8, { kind: 'sign_in_failed', by: null })], more: true }
        : { events: [event(3, { kind: 'export', person: null })], more: false },
    );
    const { page, press } = await openPage(TrailPanel, { as: 'lead' });
    await shows(page, 'changed a role');
    expect(page.text()).toContain('nobody signed in');
    await press('Earlier ones');
    await shows(page, 'took data out');
    expect(server.of(ROUTES.audit).at(-1)!.query.get('before')).toBe('8');
    expect(page.findAll('button').some((b) => b.text() === 'Earlier ones')).toBe(false);
    expect(page.get('a[download]').attributes('href')).toBe('/api/audit.csv');
  });
});

describe('who may do what', () => {
  it('is the table that the server goes by; the rule for leads is refused in words', async () => {
    new TestServer()
      .on(ROUTES.secondFactorRequired, { required: false })
      .refuse(
        ROUTES.requireSecondFactor,
        409,
        'account.no_second_factor',
        'Set up your own second factor first.',
      );
    const { page } = await openPage(RightsPanel, { as: 'lead' });
    await shows(page, 'Sign a trainee off in a skill');
    expect(page.text()).toContain('in the own classes');
    await page.get('input[role=switch]').trigger('change');
    await shows(page, 'Set up your own second factor first.');
  });
});

describe('a code that was given out', () => {
  const invited = (more: object = {}) => ({ name: 'Odalys Venn', login: null, secondFactor: false, ...more });
  it('out of the address it is looked at by itself; name and password are chosen', async () => {
    vi.spyOn(useSession(), 'refresh').mockResolvedValue();
    const server = new TestServer()
      .on(ROUTES.lookAtCode, invited())
      .refuse(ROUTES.join, 409, 'person.login_taken', 'The sign-in name venn is taken.');
    const { page, type, press } = await openPage(JoinPage, { as: null, at: `/join#${CODE.code}` });
    await shows(page, 'Odalys Venn');
    expect(server.of(ROUTES.lookAtCode)[0]!.body).toEqual({ code: 'ABCDEFGHJK23456' });
    await type('input[name=login]', 'venn');
    await type('input[name=password]', 'seven quiet lanterns');
    await press('Begin');
    await shows(page, 'The sign-in name venn is taken.');
    server.on(ROUTES.join, { id: id(4), name: 'Odalys Venn', login: 'venn2', role: 'trainee' });
    await type('input[name=login]', 'venn2');
    await press('Begin');
    await holds(() => expect(server.of(ROUTES.join)).toHaveLength(2));
    expect(server.of(ROUTES.join)[1]!.body).toMatchObject({
      login: 'venn2',
      password: 'seven quiet lanterns',
    });
  });
  it('for a new password the sign-in name stays', async () => {
    const server = new TestServer().on(ROUTES.lookAtCode, invited({ login: 'venn' })).on(ROUTES.join, null);
    vi.spyOn(useSession(), 'refresh').mockResolvedValue();
    const { page, type, press } = await openPage(JoinPage, { as: null, at: `/join#${CODE.code}` });
    await shows(page, 'Choose a new password.');
    expect(page.get('input[name=login]').attributes('disabled')).toBeDefined();
    await type('input[name=password]', 'seven quiet lanterns');
    await press('Set the password');
    await holds(() => expect(server.of(ROUTES.join)[0]!.body).toMatchObject({ login: null }));
  });
  it('a wrong one is told under the field', async () => {
    new TestServer().refuse(ROUTES.lookAtCode, 404, 'account.bad_code', 'This code does not hold.');
    const { page, type, press } = await openPage(JoinPage, { as: null, at: '/join' });
    await type('input[name=code]', 'AAAAA AAAAA AAAAA');
    await press('Go on');
    await shows(page, 'This code does not hold.');
  });
});

describe('the own account', () => {
  const state = {
    login: 'brack',
    sessions: 3,
    secondFactor: false,
    secondFactorRequired: false,
    pin: false,
    recoveryCodesLeft: 0,
  };
  it('a wrong old password is told under it; a good change says what it ended', async () => {
    const server = new TestServer()
      .on(ROUTES.ownAccount, state)
      .refuse(ROUTES.changeOwnPassword, 401, 'auth.bad_credentials', 'Name and password do not match.');
    const { page, type, press } = await openPage(AccountPage);
    await shows(page, 'Here and in 2 other places.');
    await type('input[name=current-password]', 'not this one');
    await type('input[name=new-password]', 'seven quiet lanterns');
    await press('Change it');
    await shows(page, 'Name and password do not match.');
    server.on(ROUTES.changeOwnPassword, { done: true });
    await press('Change it');
    await shows(page, 'On all other devices you are signed out.');
    expect(server.of(ROUTES.changeOwnPassword)[1]!.body).toEqual({
      current: 'not this one',
      next: 'seven quiet lanterns',
    });
  });
  it('a second factor is set up by key and digits, and its recovery codes are shown once', async () => {
    vi.spyOn(useSession(), 'refresh').mockResolvedValue();
    const server = new TestServer()
      .on(ROUTES.ownAccount, state)
      .on(ROUTES.beginSecondFactor, {
        secret: 'JBSWY3DPEHPK3PXP',
        address: 'otpauth://totp/x?secret=JBSWY3DPEHPK3PXP',
      })
      .refuse(ROUTES.confirmSecondFactor, 401, 'auth.bad_second_factor', 'That code is wrong.');
    const { page, type, press } = await openPage(AccountPage);
    await shows(page, 'Set it up');
    await type('input[name=factor-password]', 'the password');
    await press('Set it up');
    await shows(page, 'JBSW Y3DP EHPK 3PXP');
    expect(page.getComponent(QrCode).props('text')).toContain('otpauth://');
    await type('input[name=factor-code]', '123 456');
    await press('Turn it on');
    await shows(page, 'That code is wrong.');
    server.on(ROUTES.confirmSecondFactor, { recoveryCodes: ['AAAAABBBBB', 'CCCCCDDDDD'] });
    await press('Turn it on');
    await shows(page, 'CCCCCDDDDD');
    expect(server.of(ROUTES.confirmSecondFactor)[1]!.body).toEqual({ code: '123456' });
  });
});
