// @vitest-environment happy-dom
import { type Account, ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { detail } from '../../../../test/class-detail.ts';
import {
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  settled,
  TestServer,
} from '../../../../test/page.ts';
import CopyClassDialog from '../CopyClassDialog.vue';
import RosterDialog from './RosterDialog.vue';

freshPages();

const KNOWN: Account = { id: id(12), name: 'Ysolde Brack', login: 't-12', role: 'trainee', classes: [] };
async function open(text: string, server = new TestServer()) {
  const opened = await openPage(RosterDialog, {
    props: { detail: detail({ trainees: [] }), people: [KNOWN] },
  });
  const raw = new File([text], 'roster.csv', { type: 'text/csv' });
  const upload = opened.page.getComponent({ name: 'ElUpload' });
  await (upload.props('onChange') as (file: object) => Promise<void>)({ raw });
  await settled();
  return { ...opened, server };
}
const dialog = (): string => document.querySelector('[data-test=csv-file]')?.textContent ?? '';

describe('a roster out of a file', () => {
  it('is looked through first, then sent whole', async () => {
    const { server, page } = await open('Name;Group\nTorvin Hale;A\nYsolde Brack;B\nTorvin Hale;A\n');
    server.on(ROUTES.addRoster, { added: 2 });
    expect(dialog()).toContain('new to the school');
    expect(dialog()).toContain('twice in the file');
    await pressAnywhere('Add 2 trainees');
    await holds(() => expect(server.of(ROUTES.addRoster)).toHaveLength(1));
    expect(server.of(ROUTES.addRoster)[0]!.body).toMatchObject({
      people: [
        { newPerson: { name: 'Torvin Hale' }, group: 'A' },
        { personId: KNOWN.id, newPerson: null, group: 'B' },
      ],
    });
    await holds(() => expect(page.emitted('added')).toEqual([[2]]));
  });
  it('a line that cannot be taken holds everything back, with its reason', async () => {
    const { server } = await open('Name\nTorvin Hale\n=HYPERLINK(1)\n');
    expect(dialog()).toContain('Begins like a formula of a spreadsheet.');
    await pressAnywhere('Add 1 trainee');
    expect(server.of(ROUTES.addRoster)).toEqual([]);
  });
  it('a file that is no roster is refused in words', async () => {
    await open('');
    expect(dialog()).toContain('There is nothing in this file.');
  });
  it('what the server refuses is told, and the file stays', async () => {
    const server = new TestServer().refuse(
      ROUTES.addRoster,
      409,
      'class.already_member',
      'Already in this class.',
    );
    await open('Name\nTorvin Hale\n', server);
    await pressAnywhere('Add 1 trainee');
    await holds(() => expect(dialog()).toContain('Already in this class.'));
    expect(dialog()).toContain('Torvin Hale');
  });
});

it('a class like an earlier one begins after it, and is sent with what it takes', async () => {
  const server = new TestServer()
    .on(ROUTES.copyClass, (asked: { body: object }) => asked.body)
    .on(ROUTES.start, {});
  await openPage(CopyClassDialog, { props: { from: detail() } });
  const field = document.querySelector<HTMLInputElement>('input[name=copy-name]')!;
  field.value = 'Autumn crew';
  field.dispatchEvent(new Event('input'));
  await settled();
  await pressAnywhere('Make the class');
  await holds(() => expect(server.of(ROUTES.copyClass)).toHaveLength(1));
  const { parts, startsOn, endsOn, name } = server.of(ROUTES.copyClass)[0]!.body as Record<string, string>;
  expect([name, parts]).toEqual(['Autumn crew', ['methods', 'equipment', 'policy']]);
  expect(startsOn! > detail().endsOn).toBe(true);
  expect(endsOn! > startsOn!).toBe(true);
});
