// @vitest-environment happy-dom
import { type ClassDetail, ROUTES } from '@clear-mark/contract';
import { describe, expect, it, vi } from 'vitest';
import { detail } from '../../../test/class-detail.ts';
import {
  alerts,
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
import ClassesPage from './ClassesPage.vue';
import ClassPage from './ClassPage.vue';
import TraineesPanel from './TraineesPanel.vue';

freshPages();

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
