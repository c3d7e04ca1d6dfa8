import type { Account } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { mappingOf, readCsv, textOf } from '../../../shared/csv/csv-file.ts';
import { linesOf, ROSTER, rosterBody, withName } from './roster.model.ts';

const read = (text: string) => {
  const found = readCsv(text, ROSTER);
  if (found.kind === 'refused') throw new Error(found.why);
  return found.file;
};
const person = (n: number, name: string, role: Account['role'] = 'trainee'): Account => ({
  id: `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`,
  name,
  login: `t-${n}`,
  role,
  classes: [],
});
const nobody: Parameters<typeof linesOf>[2] = { inClass: [], people: [] };
const names = (text: string, there = nobody) => {
  const file = read(text);
  return linesOf(file, withName(mappingOf(file, ROSTER)), there).map((l) => [l.name, l.group, l.becomes]);
};

describe('a roster as CSV', () => {
  it.each([
    ['commas', 'Name,Group\r\nTorvin Hale,A\r\n'],
    ['semicolons', 'Name;Group\nTorvin Hale;A\n'],
    ['tabs', 'Name\tGroup\nTorvin Hale\tA\n'],
    ['a byte-order mark', '\uFEFFName,Group\nTorvin Hale,A\n'],
    ['quotes', '"Name","Group"\n"Torvin Hale","A"\n'],
    ['other headings in another order', 'Team,Surname,First name\nA,Hale,Torvin\n'],
    ['its headings again', 'Name,Group\nTorvin Hale,A\nName,Group\n'],
    ['empty lines and spaces', '\nName,Group\n\n  Torvin   Hale , A \n\n'],
  ])('with %s', (_, text) => {
    expect(names(text)).toEqual([['Torvin Hale', 'A', 'new']]);
  });
  it('without headings its first column is the name', () => {
    expect(names('Torvin Hale\nYsolde Brack\n').map((l) => l[0])).toEqual(['Torvin Hale', 'Ysolde Brack']);
  });
  it('keeps what quotes hold: separators, quotation marks', () => {
    expect(names('Name\n"Hale, Torvin ""Tor"""\n')[0]![0]).toBe('Hale, Torvin "Tor"');
  });
  it('of western Europe’s letters is read as such, and said', () => {
    const latin = new Uint8Array([0x4e, 0x61, 0x6d, 0x65, 0x0a, 0x4a, 0xf6, 0x72, 0x67]);
    expect(textOf(latin.buffer)).toEqual({ text: 'Name\nJörg', latin: true });
    expect(textOf(new TextEncoder().encode('Name\nJörg').buffer as ArrayBuffer)).toEqual({
      text: 'Name\nJörg',
      latin: false,
    });
  });
  it.each([
    ['nothing', '', 'nothing in this file'],
    ['a quotation mark that stays open', 'Name\n"Torvin\nYsolde\n', 'not closed'],
    ['a hundred thousand lines', `Name\n${'A B\n'.repeat(100_000)}`, 'More than 500 lines'],
  ])('of %s is refused with its reason', (_, text, why) => {
    const found = readCsv(text, ROSTER);
    expect(found.kind === 'refused' && found.why).toContain(why);
  });
});

describe('what becomes of each line', () => {
  it('in the class, in the school, twice in the file, or new', () => {
    const there = {
      inClass: [{ name: 'TORVIN HALE' }],
      people: [person(2, 'Ysolde Brack'), person(3, 'Bela Okarin', 'instructor')],
    };
    expect(
      names('Name\nTorvin Hale\nysolde brack\nBela Okarin\nbela okarin\n', there).map((l) => l[2]),
    ).toEqual(['here', 'known', 'new', 'twice']);
  });
  it('two people of one name in the school are not guessed between', () => {
    const there = { inClass: [], people: [person(2, 'Ysolde Brack'), person(3, 'Ysolde Brack')] };
    expect(names('Name\nYsolde Brack\n', there)[0]![2]).toBe('new');
  });
  it.each([
    ['Name,Group\n,A\n', 'No name.'],
    ['Name\n=1+1\n', 'Begins like a formula'],
    ['Name\n@SUM(A1)\n', 'Begins like a formula'],
    [`Name\n${'x'.repeat(81)}\n`, 'at most 80'],
    [`Name,Group\nTorvin Hale,${'g'.repeat(31)}\n`, 'at most 30'],
  ])('%s is bad, with its line', (text, why) => {
    const file = read(text);
    const [line] = linesOf(file, withName(mappingOf(file, ROSTER)), nobody);
    expect([line!.becomes, line!.number]).toEqual(['bad', 2]);
    expect(line!.problem).toContain(why);
  });
  it('what is sent names those who are there, and makes the others', () => {
    const file = read('Name,Group\nYsolde Brack,A\nTorvin Hale,B\nTorvin Hale,C\n');
    const known = person(2, 'Ysolde Brack');
    const lines = linesOf(file, withName(mappingOf(file, ROSTER)), { inClass: [], people: [known] });
    expect(rosterBody(lines, new Set()).people).toEqual([
      { personId: known.id, newPerson: null, group: 'A' },
      { personId: expect.any(String), newPerson: { name: 'Torvin Hale' }, group: 'B' },
    ]);
    expect(rosterBody(lines, new Set([2])).people[0]).toMatchObject({ newPerson: { name: 'Ysolde Brack' } });
  });
});
