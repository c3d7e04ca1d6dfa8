// @vitest-environment happy-dom
import { ROUTES, type Thing } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import {
  CLASS,
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  settled,
  TestServer,
} from '../../../../test/page.ts';
import { mappingOf, readCsv } from '../../../shared/csv/csv-file.ts';
import { EQUIPMENT, kindOf, linesOf, withBoth } from './equipment.model.ts';
import EquipmentDialog from './EquipmentDialog.vue';

freshPages();
const THERE: readonly Thing[] = [{ id: id(1), kind: 'cleaver', label: 'Cleaver 1', retired: false }];
const lines = (text: string) => {
  const read = readCsv(text, EQUIPMENT);
  if (read.kind === 'refused') throw new Error(read.why);
  return linesOf(read.file, withBoth(mappingOf(read.file, EQUIPMENT)), THERE).map((l) => [
    l.kind,
    l.label,
    l.becomes,
    l.problem,
  ]);
};

describe('equipment as CSV', () => {
  it.each([
    ['cleaver', 'cleaver'],
    ['Cleavers', 'cleaver'],
    ['BENCHES', 'bench'],
    ['Smoke pot', 'own:Smoke_pot'],
    ['=1+1', null],
  ])('%s is the kind %s', (word, kind) => expect(kindOf(word)).toBe(kind));
  it('is by its headings, or by the order of its columns', () => {
    const wanted = [['cleaver', 'Cleaver 2', 'new', null]];
    for (const text of [
      'Label;Kind\nCleaver 2;cleaver',
      'Type,Asset tag\ncleaver,Cleaver 2',
      'cleaver,Cleaver 2',
    ])
      expect(lines(text), text).toEqual(wanted);
  });
  it('leaves out what is there and what comes twice, and says what is wrong with a line', () => {
    expect(
      lines('Kind,Label\ncleaver,cleaver 1\nscope,Scope 9\nscope,scope 9\n,X\nscope,\nscope,=A1\n12%,X\n'),
    ).toEqual([
      ['cleaver', 'cleaver 1', 'here', null],
      ['scope', 'Scope 9', 'new', null],
      ['scope', 'scope 9', 'twice', null],
      [null, 'X', 'bad', 'No kind.'],
      ['scope', '', 'bad', 'No label.'],
      ['scope', '=A1', 'bad', 'Begins like a formula of a spreadsheet.'],
      [null, 'X', 'bad', '“12%” is no kind of equipment.'],
    ]);
  });
  it('is looked through, then sent whole; what the server refuses is told', async () => {
    const server = new TestServer().refuse(ROUTES.addThings, 409, 'thing.label_taken', 'There is a Scope 9.');
    const { page } = await openPage(EquipmentDialog, { props: { classId: CLASS, things: THERE } });
    const upload = page.getComponent({ name: 'ElUpload' });
    const raw = new File(['Kind,Label\nscope,Scope 9\ncleaver,Cleaver 1\n'], 'x.csv');
    await (upload.props('onChange') as (file: object) => Promise<void>)({ raw });
    await settled();
    await pressAnywhere('Add 1');
    await holds(() => expect(document.body.textContent).toContain('There is a Scope 9.'));
    server.on(ROUTES.addThings, { added: 1 });
    await pressAnywhere('Add 1');
    await holds(() => expect(page.emitted('added')).toHaveLength(1));
    expect(server.of(ROUTES.addThings)[0]!.body).toMatchObject({
      things: [{ kind: 'scope', label: 'Scope 9' }],
    });
  });
});
