import { describe, expect, it } from 'vitest';
import { readyProblems } from './ready-problems.ts';
import { check, limit, loss, measure, sheetOf, SOURCE, step } from './sheet-for-tests.ts';
import type { MethodSheet, PracticeChange, PracticeOption } from './types.ts';

const said = (text: string) => [{ text, stop: false }];
const sound: MethodSheet = {
  ...sheetOf(step('a', 'test', [check('x'), measure('y', { upper: limit('5') })])),
  summary: 'what it is',
  passMarkSource: SOURCE,
  cautions: said('Clear the bench.'),
};
const codes = (sheet: MethodSheet): string[] => readyProblems(sheet).map((p) => p.code);
const withStep = (more: object): MethodSheet => ({ ...sound, steps: [{ ...sound.steps[0]!, ...more }] });
/** The sound sheet with a question, whose second choice leaves a criterion out unless other changes are given. */
const asking = (
  more: Partial<PracticeOption>,
  label = 'without it',
  changes: readonly PracticeChange[] = [{ change: 'leave_out', criterion: sound.steps[0]!.criteria[0]!.id }],
): MethodSheet => ({
  ...sound,
  schools: [
    {
      id: 'own-1',
      question: 'Is it looked at?',
      reason: 'It is quick.',
      default: 'a',
      options: [
        { id: 'a', label: 'as it is', changes: [] },
        { id: 'b', label, changes },
      ],
      ...more,
    },
  ],
});
const noWords = { ...SOURCE, words: ' ' };

describe('what keeps a draft from being published', () => {
  it('is nothing for a sound one', () => expect(readyProblems(sound)).toEqual([]));

  it.each<[MethodSheet, string]>([
    [{ ...sound, title: ' ' }, 'sheet.no_words'],
    [{ ...sound, summary: '' }, 'sheet.no_words'],
    [{ ...sound, passMarkSource: noWords }, 'sheet.no_source'],
    [{ ...sound, passMarkPercent: 0 }, 'sheet.pass_mark'],
    [{ ...sound, passMarkPercent: 101 }, 'sheet.pass_mark'],
    [{ ...sound, cautions: [] }, 'sheet.no_caution'],
    [{ ...sound, cautions: said(' ') }, 'sheet.no_caution'],
    [withStep({ cautions: said('') }), 'sheet.no_caution'],
    [withStep({ title: '' }), 'sheet.no_words'],
    [withStep({ criteria: [check('x', { label: '' })] }), 'sheet.no_words'],
    [withStep({ criteria: [check('x'), measure('n', { upper: limit('1,x') })] }), 'sheet.bad_number'],
    [withStep({ criteria: [check('x', { source: noWords })] }), 'sheet.no_source'],
    [
      withStep({ criteria: [check('x'), measure('y', { upper: { value: '5', source: noWords } })] }),
      'sheet.no_source',
    ],
    [withStep({ criteria: [check('x', { required: false })] }), 'sheet.nothing_required'],
    [withStep({ criteria: [check('x', { points: 0 })] }), 'sheet.nothing_required'],
    [asking({ reason: '' }), 'sheet.practice_words'],
    [asking({ question: ' ' }), 'sheet.practice_words'],
    [asking({}, ''), 'sheet.practice_words'],
    [asking({}, 'without it', []), 'sheet.practice_same'],
    [
      asking({}, 'tighter', [
        {
          change: 'band',
          criterion: sound.steps[0]!.criteria[1]!.id,
          band: { lower: limit('7'), upper: limit('6') },
        },
      ]),
      'sheet.crossed_band',
    ],
  ])('%#: one problem, where it is', (sheet, code) => {
    expect(codes(sheet)).toEqual([code]);
    expect(readyProblems(sheet)[0]!.blocks).toBe(true);
  });

  it('names the step, and the criterion', () => {
    const [empty] = readyProblems({ ...sound, steps: [...sound.steps, step('b', 'test', [])] });
    expect(empty).toMatchObject({ code: 'sheet.empty_step', step: 'b', criterion: null });
    const [crossed] = readyProblems(
      withStep({ criteria: [check('x'), measure('y', { lower: limit('6'), upper: limit('5') })] }),
    );
    expect(crossed).toMatchObject({ code: 'sheet.crossed_band', step: 'a', criterion: 'y' });
  });

  it('tells all of them at once', () => {
    const sheet = withStep({ criteria: [check('x', { points: -1 }), check('x'), measure('y', {})] });
    expect(codes(sheet)).toEqual(['sheet.points', 'sheet.repeated_criterion', 'sheet.no_limit']);
  });
});

describe('cautions for what the steps use', () => {
  it.each<[string, MethodSheet, string]>([
    ['shards', { ...sound, steps: [step('a', 'cleave', [check('x')])] }, 'Offcuts go into the shard bin.'],
    ['light', withStep({ criteria: [check('x'), loss('z')] }), 'Never look into a fiber.'],
    ['solvent', withStep({ how: 'Wipe with alcohol.' }), 'Alcohol is flammable.'],
    ['adhesive', withStep({ how: 'Mix the epoxy.' }), 'Keep epoxy off the skin.'],
    ['heat', withStep({ how: 'Cure in the oven.' }), 'The oven is hot.'],
    ['arc', { ...sound, thingsUsed: ['splicer'] }, 'Do not touch the arc.'],
  ])('%s: advice until a caution speaks of it', (material, sheet, caution) => {
    expect(readyProblems(sheet)).toEqual([
      { code: 'sheet.caution_missing', params: { material }, step: null, criterion: null, blocks: false },
    ]);
    expect(readyProblems({ ...sheet, cautions: said(caution) })).toEqual([]);
    const inStep = { ...sheet.steps[0]!, cautions: said(caution) };
    expect(readyProblems({ ...sheet, steps: [inStep] })).toEqual([]);
  });
});
