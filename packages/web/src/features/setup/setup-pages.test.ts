// @vitest-environment happy-dom
import { type ClassDetail, ROUTES } from '@clear-mark/contract';
import { DEFAULT_POLICY } from '@clear-mark/core';
import { describe, expect, it, vi } from 'vitest';
import { useSession } from '../../session/session.ts';
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
import ClassesPage from './ClassesPage.vue';
import ClassPage from './ClassPage.vue';
import InstrumentsPanel from './InstrumentsPanel.vue';
import MethodsPanel from './MethodsPanel.vue';
import PeoplePanel from './PeoplePanel.vue';
import PolicyForm from './PolicyForm.vue';
import PracticePanel from './PracticePanel.vue';
import ThingsPanel from './ThingsPanel.vue';
import TraineesPanel from './TraineesPanel.vue';

freshPages();

const bench = { id: id(20), kind: 'bench', label: 'Bench A', retired: false } as const;
const trainee = (n: number, name: string, group = '') => ({
  id: id(n),
  name,
  login: `t-${n}`,
  role: 'trainee',
  group,
});
const detail = (more: Partial<ClassDetail> = {}): ClassDetail =>
  ({
    id: CLASS,
    name: 'Pier crew 1',
    place: 'Old net loft',
    timeZone: 'Europe/Lisbon',
    startsOn: '2026-03-02',
    endsOn: '2026-03-30',
    policy: DEFAULT_POLICY,
    schools: {},
    instructors: [{ id: id(1), name: 'Ysolde Brack', login: 'brack', role: 'instructor' }],
    trainees: [trainee(11, 'Torvin Hale', 'morning'), trainee(12, 'Bela Okarin')],
    things: [bench],
    methods: [
      { versionId: id(30), methodId: 'm', version: 4, title: 'Bench cleave', state: 'in_force', inUse: true },
    ],
    links: [],
    ...more,
  }) as ClassDetail;
const alerts = (page: { findAll: (s: string) => { text: () => string }[] }): string[] =>
  page.findAll('[role=alert]').map((a) => a.text());

describe('a new class', () => {
  it('without a name is not sent: the field says so', async () => {
    const server = new TestServer();
    const { page, press } = await openPage(ClassesPage);
    await press('Make the class');
    await shows(page, 'Fill this in.');
    expect(server.of(ROUTES.addClass)).toEqual([]);
  });
  it('is sent as it was typed, in the browser’s zone, and opened', async () => {
    vi.spyOn(useSession(), 'refresh').mockResolvedValue();
    const server = new TestServer().on(ROUTES.addClass, (asked: { body: object }) => asked.body);
    const { type, press, router } = await openPage(ClassesPage);
    await type('input[name=class-name]', '  Pier crew 2 ');
    await press('Make the class');
    await holds(() => expect(server.of(ROUTES.addClass)).toHaveLength(1));
    const [sent] = server.of(ROUTES.addClass).map((a) => a.body as ClassDetail);
    expect(sent).toMatchObject({
      name: 'Pier crew 2',
      timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    });
    expect(sent!.endsOn > sent!.startsOn).toBe(true);
    await holds(() => expect(router.currentRoute.value.name).toBe('setup'));
  });
  it('days that the server refuses are told beside the last of them, and nothing typed is lost', async () => {
    new TestServer().refuse(ROUTES.addClass, 422, 'class.dates_crossed', 'The class ends before it starts.');
    const { page, type, press } = await openPage(ClassesPage);
    await type('input[name=class-name]', 'Pier crew 2');
    await press('Make the class');
    await shows(page, 'The class ends before it starts.');
    expect(page.get<HTMLInputElement>('input[name=class-name]').element.value).toBe('Pier crew 2');
  });
  it('a lost connection is told once, for the whole form', async () => {
    new TestServer();
    const { page, type, press } = await openPage(ClassesPage);
    await type('input[name=class-name]', 'Pier crew 2');
    await press('Make the class');
    await shows(page, 'The server does not answer');
  });
});

describe('accounts', () => {
  const accounts = [
    {
      id: id(1),
      name: 'Ysolde Brack',
      login: 'brack',
      role: 'instructor',
      classes: [{ id: CLASS, name: 'Pier crew 1' }],
    },
    { id: id(2), name: 'Torvin Hale', login: 't-2', role: 'trainee', classes: [] },
  ];
  it('say at a glance their classes and what they may do', async () => {
    new TestServer().on(ROUTES.people, accounts);
    const { page } = await openPage(PeoplePanel, { as: 'lead' });
    expect(page.text()).toContain('Pier crew 1');
    expect(page.text()).toContain('score, sign, plan, set up');
    expect(page.text()).toContain('none: cannot sign in');
    expect(page.text()).toContain('Is scored; sees nothing');
  });
  it('a sign-in name that is taken is told under its field; what was typed stays, and a good one clears the form', async () => {
    const server = new TestServer()
      .on(ROUTES.people, accounts)
      .refuse(ROUTES.addPerson, 409, 'person.login_taken', 'The sign-in name hale is taken.');
    const { page, type, press } = await openPage(PeoplePanel, { as: 'lead' });
    await type('input[name=person-name]', 'Torvin Hale');
    await type('input[name=person-login]', 'hale');
    await type('input[name=person-password]', 'a long enough phrase');
    await press('Make the account');
    await shows(page, 'The sign-in name hale is taken.');
    expect(page.get<HTMLInputElement>('input[name=person-login]').element.value).toBe('hale');
    server.on(ROUTES.addPerson, (asked: { body: object }) => asked.body);
    await type('input[name=person-login]', 'hale2');
    await press('Make the account');
    await shows(page, 'Torvin Hale can sign in as hale2.');
    expect(page.get<HTMLInputElement>('input[name=person-login]').element.value).toBe('');
    const [first, second] = server.of(ROUTES.addPerson).map((a) => (a.body as { id: string }).id);
    expect(first).toBe(second);
  });
  it('a name of a wrong shape is told in words before anything is sent', async () => {
    const server = new TestServer().on(ROUTES.people, accounts);
    const { page, type, press } = await openPage(PeoplePanel, { as: 'lead' });
    await type('input[name=person-login]', 'no spaces!');
    await shows(page, 'Small letters, digits, dots and dashes');
    await press('Make the account');
    expect(server.of(ROUTES.addPerson)).toEqual([]);
  });
});

describe('the page of a class', () => {
  it('waits with its shape, then shows the class', async () => {
    const answer = new TestServer().on(ROUTES.people, []).hold(ROUTES.classDetail, detail());
    const { page } = await openPage(ClassPage, { props: { classId: CLASS } });
    expect(page.find('.el-skeleton').exists()).toBe(true);
    answer();
    await settled();
    expect(page.get('h1').text()).toBe('Pier crew 1');
    expect(page.find('.el-skeleton').exists()).toBe(false);
  });
  it('says what went wrong', async () => {
    new TestServer();
    const { page } = await openPage(ClassPage, { props: { classId: CLASS } });
    expect(alerts(page)[0]).toContain('The server does not answer');
  });
  it('opens at the next step while something is missing for the first piece, and says which', async () => {
    new TestServer().on(ROUTES.people, []).on(ROUTES.classDetail, detail({ things: [] }));
    const { page, button } = await openPage(ClassPage, { props: { classId: CLASS } });
    expect(page.text()).toContain('Nothing entered yet.');
    expect(button('Do this').text()).toBe('Do this');
  });
  it('the safekeeping of records is for the lead', async () => {
    new TestServer().on(ROUTES.people, []).on(ROUTES.classDetail, detail());
    const { page } = await openPage(ClassPage, { props: { classId: CLASS } });
    expect(page.text()).not.toContain('Safekeeping');
  });
});

describe('who is in the class', () => {
  const panel = (server: TestServer, more: Partial<ClassDetail> = {}) => {
    server.on(ROUTES.addMember, {}).on(ROUTES.setGroup, {});
    return openPage(TraineesPanel, {
      props: {
        detail: detail(more),
        people: [{ id: id(9), name: 'Ivo Merrin', login: 'm', role: 'instructor' }],
      },
    });
  };
  it('a pasted roster adds whom the class does not know, and names the others', async () => {
    const server = new TestServer();
    const { page, type, press } = await panel(server);
    await type('textarea', '1. Orla Finch\n2. Torvin Hale\nOrla Finch\n');
    expect(page.text()).toContain('Already here: Torvin Hale.');
    await press('Add trainees');
    expect(
      server.of(ROUTES.addMember).map((a) => (a.body as { newPerson: { name: string } }).newPerson.name),
    ).toEqual(['Orla Finch']);
    expect(page.emitted('changed')).toHaveLength(1);
  });
  it('a group that is changed can be changed back', async () => {
    const server = new TestServer();
    const { page } = await panel(server);
    const group = page.get('input[aria-label="Group of Torvin Hale"]');
    await group.setValue('evening');
    await group.trigger('change');
    await settled();
    expect(document.querySelector('[data-test=undo]')?.textContent).toContain(
      'Torvin Hale is in group evening.',
    );
    await pressAnywhere('Undo');
    expect(server.of(ROUTES.setGroup).map((a) => (a.body as { group: string }).group)).toEqual([
      'evening',
      'morning',
    ]);
  });
  it('a class without trainees says what to do', async () =>
    expect((await panel(new TestServer(), { trainees: [] })).page.text()).toContain(
      'Nobody yet. Type or paste names',
    ));
  it('what the server refuses is told, and what was typed stays', async () => {
    const server = new TestServer();
    const opened = await panel(server);
    server.refuse(ROUTES.addMember, 409, 'class.already_member', 'Already in this class.');
    await opened.type('textarea', 'Orla Finch');
    await opened.press('Add trainees');
    expect(alerts(opened.page)).toContain('Already in this class.');
    expect(opened.page.get<HTMLTextAreaElement>('textarea').element.value).toBe('Orla Finch');
  });
});

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
    expect(button('Keep the policy').attributes('disabled')).toBeDefined();
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
    await press('Keep the policy');
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
