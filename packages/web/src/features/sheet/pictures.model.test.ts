import type { CriterionOutcome, Entry } from '@clear-mark/core';
import { LC_WEDGE_LOCATOR, SHIPPED_METHODS } from '@clear-mark/methods';
import { describe, expect, it } from 'vitest';
import { faceBeside, layerOf, lossBeside, measuredIn, pictureOf } from './pictures.model.ts';
import { listCriteria, type SheetCriterion } from './sheet.model.ts';

const entry = (value: Entry['value'], id = 'e'): Entry => ({ id, value }) as Entry;
const nameOf = (item: SheetCriterion): string => item.criterion.id.split('/').at(-1)!;
const sheetOf = (name: string): SheetCriterion[] =>
  listCriteria(SHIPPED_METHODS.find((m) => m.id.endsWith(`/${name}`))!);

describe('values that were measured in pictures', () => {
  it('are those whose entries name one, each once, a joint by its loss', () => {
    const picture = { id: 'p1', expanded: '0.10' };
    const measured = entry({ kind: 'measure', text: '0.41', unit: 'deg', picture });
    const typed = entry({ kind: 'measure', text: '0.5', unit: 'deg' });
    const joint = entry({
      kind: 'grade',
      level: 'clean',
      picture: { id: 'p2', lossDb: '0.03', expanded: '0.02' },
    });
    const chosen = entry({ kind: 'grade', level: 'clean' });
    expect(measuredIn([typed, measured, joint, measured, chosen, entry(null)])).toEqual([
      { ...picture, text: '0.41', unit: 'deg' },
      { id: 'p2', expanded: '0.02', text: '0.03', unit: 'dB' },
    ]);
  });
  it('are asked for of cleave angles, of the lengths of a prepared end, and of joints', () => {
    const asked = listCriteria(LC_WEDGE_LOCATOR).filter((i) => pictureOf(i) !== null);
    expect(asked.map((i) => [nameOf(i), layerOf(i)])).toEqual([
      ['jacket-length', 'jacket'],
      ['bare-length', 'buffer'],
      ['cleave-length', 'buffer'],
    ]);
    const of = (name: string): (string | null)[][] =>
      sheetOf(name)
        .filter((i) => pictureOf(i) !== null)
        .map((i) => [nameOf(i), pictureOf(i)]);
    expect(of('bench-cleave')).toContainEqual(['cleave-angle', 'cleave']);
    for (const name of ['single-fusion', 'ribbon-splice', 'fused-mpo'])
      expect(of(name)).toContainEqual(['joint', 'splice']);
  });
});

describe('what a picture says beside its own row', () => {
  /** The sheet with what stands at some of its criteria. */
  function standing(of: Record<string, Entry['value']>) {
    const entries = new Map(Object.entries(of).map(([id, value]) => [id, entry(value, id)]));
    const outcomes = new Map(
      Object.keys(of).map((id) => [id, { entryIds: [id] } as unknown as CriterionOutcome]),
    );
    return { outcomes, entryById: (id: string): Entry | null => entries.get(id) ?? null };
  }
  const splice = sheetOf('single-fusion');
  const at = (items: readonly SheetCriterion[], name: string): SheetCriterion =>
    items.find((i) => nameOf(i) === name)!;

  it('the loss of a joint stands at the splicer’s estimate of the same step, and nowhere else', () => {
    const picture = { id: 'p', lossDb: '0.04', expanded: '0.02' };
    const joint = at(splice, 'joint');
    const { outcomes, entryById } = standing({
      [joint.criterion.id]: { kind: 'grade', level: 'clean', picture },
    });
    expect(lossBeside(at(splice, 'estimate'), outcomes, entryById)).toEqual(picture);
    expect(lossBeside(joint, outcomes, entryById)).toBeNull();
    expect(lossBeside(at(splice, 're-arcs'), outcomes, entryById)).toBeNull();
    const typed = standing({ [joint.criterion.id]: { kind: 'grade', level: 'clean' } });
    expect(lossBeside(at(splice, 'estimate'), typed.outcomes, typed.entryById)).toBeNull();
    const ribbon = sheetOf('ribbon-splice');
    const worst = standing({
      [at(ribbon, 'joint').criterion.id]: { kind: 'grade', level: 'clean', picture },
    });
    expect(lossBeside(at(ribbon, 'estimates'), worst.outcomes, worst.entryById)).toEqual(picture);
  });

  it('the face of a cleave is offered at its own scale; a broken end as a chip', () => {
    const bench = sheetOf('bench-cleave');
    const angle = at(bench, 'cleave-angle').criterion.id;
    const face = at(bench, 'cleave-face');
    const shown = (of: 'hackle' | 'broken'): string | null => {
      const { outcomes, entryById } = standing({
        [angle]: {
          kind: 'measure',
          text: '0.4',
          unit: 'deg',
          picture: { id: 'p', expanded: '0.1', face: of },
        },
      });
      return faceBeside(face, outcomes, entryById);
    };
    expect(shown('hackle')).toBe('hackle');
    expect(shown('broken')).toBe('chip');
    const typed = standing({ [angle]: { kind: 'measure', text: '0.4', unit: 'deg' } });
    expect(faceBeside(face, typed.outcomes, typed.entryById)).toBeNull();
    expect(faceBeside(at(splice, 'joint'), typed.outcomes, typed.entryById)).toBeNull();
  });
});
