import type { ClassDetail } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { namesIn, setupSteps } from './class-setup.model.ts';

describe('a roster', () => {
  it('is one name a line, whatever list it was copied from', () => {
    const text =
      ' 1. Ysolde Brack\r\n2) Lorne  Tessaly\n\n- Mavi Okonjo\n• Petra Lindqvale\nAnouk Derrey\t; Ines Vantreel';
    expect(namesIn(text, []).fresh).toEqual([
      'Ysolde Brack',
      'Lorne Tessaly',
      'Mavi Okonjo',
      'Petra Lindqvale',
      'Anouk Derrey',
      'Ines Vantreel',
    ]);
  });
  it('a name that is there already, or twice in the roster, is not added again', () => {
    const { fresh, known } = namesIn('Ysolde Brack\nysolde brack\nMavi Okonjo', [{ name: 'Mavi OKONJO' }]);
    expect(fresh).toEqual(['Ysolde Brack']);
    expect(known).toEqual(['Mavi Okonjo']);
  });
  it('an empty one has nobody', () => expect(namesIn(' \n ', [])).toEqual({ fresh: [], known: [] }));
});

describe('the steps of a set-up', () => {
  const detail = (more: object): ClassDetail =>
    ({ trainees: [], things: [], methods: [], instructors: [], ...more }) as unknown as ClassDetail;
  it('are done one by one, in whatever order', () => {
    const done = (more: object) => setupSteps(detail(more)).map((s) => s.done);
    expect(done({})).toEqual([false, false, false]);
    expect(done({ methods: [{ inUse: false }, { inUse: true }] })).toEqual([false, false, true]);
    expect(done({ trainees: [{}], things: [{ kind: 'cord' }] })).toEqual([true, false, false]);
    expect(done({ trainees: [{}], things: [{ kind: 'bench' }], methods: [{ inUse: true }] })).toEqual([
      true,
      true,
      true,
    ]);
  });
});
