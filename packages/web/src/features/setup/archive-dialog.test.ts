// @vitest-environment happy-dom
import { type ArchiveOutlook, FILES } from '@clear-mark/contract';
import { describe, expect, it, vi } from 'vitest';
import {
  CLASS,
  freshPages,
  holds,
  openPage,
  pressAnywhere,
  settled,
  TestServer,
} from '../../../test/page.ts';
import { useSession } from '../../session/session.ts';
import { amountsOf, METHOD_WORDS, personWords } from './archive.model.ts';
import ArchiveDialog from './ArchiveDialog.vue';

freshPages();

const OUTLOOK: ArchiveOutlook = {
  classId: CLASS,
  className: 'Quay crew 5',
  place: 'Rope Loft',
  startsOn: '2026-03-02',
  endsOn: '2026-04-03',
  madeAt: '2026-04-10T08:00:00.000Z',
  here: false,
  trainees: 1,
  pieces: 1204,
  records: 1190,
  entries: 40_100,
  pictures: 0,
  people: [
    { name: 'Amalia Quist', role: 'trainee', is: 'new', nameHere: null },
    { name: 'Jorun Tell', role: 'instructor', is: 'here', nameHere: 'Jorun Tell-Aas' },
    { name: 'Piet Oort', role: 'trainee', is: 'here', nameHere: 'Piet Oort' },
  ],
  methods: [{ title: 'Bench cleave', version: 4, is: 'same' }],
};
const dialog = async () => {
  const opened = await openPage(ArchiveDialog, { as: 'lead' });
  const give = async (): Promise<void> => {
    const upload = opened.page.getComponent({ name: 'ElUpload' });
    const raw = new File(['PK'], 'class-archive.zip', { type: 'application/zip' });
    await (upload.props('onChange') as (file: object) => Promise<void>)({ raw });
    await settled();
  };
  return { ...opened, give };
};
const said = (): string => document.body.textContent;

describe('a class from an archive', () => {
  it('is looked through before anything is taken', async () => {
    const server = new TestServer().on(FILES.lookAtArchive, OUTLOOK);
    const { give } = await dialog();
    await give();
    for (const words of [
      'Quay crew 5',
      '1 trainee',
      'a new account, closed until you open it',
      'here already as Jorun Tell-Aas',
      'here already: the class goes on with it',
    ]) {
      await holds(() => expect(said()).toContain(words));
    }
    expect(server.of(FILES.takeArchive)).toEqual([]);
  });

  it('is taken in by one press, and its page opens', async () => {
    vi.spyOn(useSession(), 'refresh').mockResolvedValue();
    const server = new TestServer().on(FILES.lookAtArchive, OUTLOOK).on(FILES.takeArchive, OUTLOOK);
    const { give, router } = await dialog();
    await give();
    await pressAnywhere('Take the class in');
    await holds(() => expect(router.currentRoute.value.name).toBe('setup'));
    expect(server.of(FILES.takeArchive)).toHaveLength(1);
  });

  it('that is refused says why, and offers nothing to take', async () => {
    new TestServer().refuse(FILES.lookAtArchive, 422, 'archive.digest', 'The digest does not fit.');
    const { give } = await dialog();
    await give();
    await holds(() => expect(said()).toContain('The digest does not fit.'));
    const take = [...document.querySelectorAll('button')].find((b) => b.textContent === 'Take the class in')!;
    expect(take.disabled).toBe(true);
  });

  it('that is here already is not taken twice', async () => {
    new TestServer().on(FILES.lookAtArchive, { ...OUTLOOK, here: true });
    const { give } = await dialog();
    await give();
    await holds(() => expect(said()).toContain('here already, with the same content'));
    const take = [...document.querySelectorAll('button')].find((b) => b.textContent === 'Take the class in')!;
    expect(take.disabled).toBe(true);
  });
});

describe('its words', () => {
  it('say what becomes of people and methods', () => {
    expect(OUTLOOK.people.map(personWords)).toEqual([
      'a new account, closed until you open it',
      'here already as Jorun Tell-Aas',
      'here already',
    ]);
    expect(METHOD_WORDS.records_only).toContain('records');
    expect(amountsOf(OUTLOOK)[0]).toEqual({ text: '1', label: 'trainee' });
    expect(amountsOf(OUTLOOK)[3]!.label).toBe('entries');
  });
});
