import type { ClassDetail } from '@clear-mark/contract';
import { DEFAULT_POLICY } from '@clear-mark/core';
import { CLASS, id } from './page.ts';

/** A class with a bench, two trainees and a method in use. */
export const bench = { id: id(20), kind: 'bench', label: 'Bench A', retired: false } as const;
const trainee = (n: number, name: string, group = '') => ({
  id: id(n),
  name,
  login: `t-${n}`,
  role: 'trainee',
  group,
});
export const detail = (more: Partial<ClassDetail> = {}): ClassDetail =>
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
