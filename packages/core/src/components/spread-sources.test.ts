import { describe, expect, it } from 'vitest';
import { numbers } from '../numbers-for-tests.ts';
import { spreadSourcesOf } from './index.ts';

const next = numbers(3);
const n = 48;
const pick = (name: string, levels: number): string[] =>
  Array.from({ length: n }, (_, i) => `${name} ${i % levels}`);
const trainee = pick('t', 6);
const day = Array.from({ length: n }, (_, i) => `day ${Math.floor(i / 12)}`);
const values = trainee.map(
  (t, i) => 0.3 + 0.05 * Number(t.slice(2)) + 0.02 * next() + 0.01 * Math.floor(i / 12),
);

describe('sources that readings can tell apart', () => {
  it('all of them where the design is good', () => {
    const found = spreadSourcesOf(values, [
      { source: 'trainee', labels: trainee },
      { source: 'day', labels: day },
    ]);
    expect(found.left).toEqual([]);
    expect(found.components!.components[0]!.share).toBeGreaterThan(0.8);
  });
  it('leaves out what cannot be told, with the reason, and goes on with the rest', () => {
    const found = spreadSourcesOf(values, [
      { source: 'trainee', labels: trainee },
      { source: 'cleaver', labels: trainee.map((t) => `of ${t}`) },
      { source: 'bench', labels: values.map(() => 'one') },
      { source: 'day', labels: day },
    ]);
    expect(found.left).toEqual([
      { reason: 'one_level', sources: ['bench'] },
      { reason: 'same_groups', sources: ['trainee', 'cleaver'] },
    ]);
    expect(found.components!.components.map((c) => c.source)).toEqual(['trainee', 'day']);
  });
  it('says nothing where nothing can be said', () => {
    expect(spreadSourcesOf([1, 2], [{ source: 'day', labels: ['a', 'b'] }])).toMatchObject({
      components: null,
      left: [{ reason: 'too_few' }],
    });
    expect(spreadSourcesOf(values, [])).toEqual({ components: null, left: [] });
  });
});
