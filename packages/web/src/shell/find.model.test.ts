import { describe, expect, it } from 'vitest';
import { type Finding, findingsFor, placesOf } from './find.model.ts';

const finding = (label: string, detail = ''): Finding => ({
  key: label,
  label,
  detail,
  verdict: null,
  to: null,
  act: null,
});
const found = (text: string, ...all: Finding[]): string[] => findingsFor(text, all).map((f) => f.label);

describe('what is found', () => {
  const all = [
    finding('Łukasz Brandt', 'start a piece'),
    finding('Cora Whitlace', 'CW-41'),
    finding('Whole class', 'place'),
    finding('René Crowhill', 'RC-1'),
  ];
  it('without a word typed, everything in its order', () => expect(found('', ...all)).toHaveLength(4));
  it('a beginning of the label goes before a beginning of a word, that before any other place', () => {
    expect(found('wh', ...all)).toEqual(['Whole class', 'Cora Whitlace', 'René Crowhill']);
  });
  it('accents and case do not matter, and all words must be there, in any order', () => {
    expect(found('RENE', ...all)).toEqual(['René Crowhill']);
    expect(found('41 cora', ...all)).toEqual(['Cora Whitlace']);
    expect(found('cora 42', ...all)).toEqual([]);
  });
  it('no more than fit', () => {
    const many = Array.from({ length: 30 }, (_, i) => finding(`Bench ${i}`));
    expect(findingsFor('bench', many)).toHaveLength(9);
  });
});

describe('places', () => {
  const labels = (isLead: boolean): string[] =>
    placesOf('c', isLead).map((p) => (p.detail === 'place' ? p.label : `${p.detail}: ${p.label}`));
  it('every place and every view by its tab’s name, with its address', () => {
    expect(labels(true)).toContain('Links: Loss budget');
    expect(placesOf('c', true).find((p) => p.key === 'links ports')!.to).toEqual({
      name: 'links',
      params: { classId: 'c' },
      query: { view: 'ports' },
    });
  });
  it('what only a lead may see is found by a lead alone', () => {
    expect(labels(true)).toContain('Insight: Instructors and items');
    expect(labels(false)).not.toContain('Insight: Instructors and items');
  });
});
