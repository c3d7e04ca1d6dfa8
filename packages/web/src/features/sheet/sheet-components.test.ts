// @vitest-environment happy-dom
import {
  type CountCriterion,
  type CriterionOutcome,
  DEFAULT_SCORING,
  type GradeCriterion,
  score,
  type Stop,
} from '@clear-mark/core';
import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import { mount } from '@vue/test-utils';
import { afterEach, describe, expect, it } from 'vitest';
import CountField from './CountField.vue';
import GradeField from './GradeField.vue';
import OutcomePanel from './OutcomePanel.vue';
import SheetDock from './SheetDock.vue';
import { listCriteria } from './sheet.model.ts';
import StopDialog from './StopDialog.vue';
import StopNotice from './StopNotice.vue';
import { levelOfRows } from './use-graded-face.ts';

const criteria = listCriteria(LC_WEDGE_LOCATOR);
const open = score(LC_WEDGE_LOCATOR, [], DEFAULT_SCORING);
const item = (name: string) => criteria.find((c) => c.criterion.id.endsWith(`/${name}`))!;
const outcomeOf = (name: string): CriterionOutcome =>
  open.criteria.find((c) => c.criterionId.endsWith(`/${name}`))!;
const stop: Stop = {
  entryId: 'e1',
  hazard: 'eyes',
  criterionId: 'x',
  stepId: 's',
  skill: 'strip',
  note: 'on the forehead',
};

afterEach(() => (document.body.innerHTML = ''));

describe('the stop of a piece', () => {
  const opened = () =>
    mount(StopDialog, { props: { trainee: 'Anouk Derrey', at: 'Jacket off' }, attachTo: document.body });
  const button = (words: string): HTMLButtonElement =>
    [...document.querySelectorAll('button')].find((b) => b.textContent.includes(words))!;

  it('says whose piece ends and where, and waits for what it is for', async () => {
    const dialog = opened();
    await dialog.vm.$nextTick();
    expect(document.body.textContent).toContain('Stop Anouk Derrey’s piece');
    expect(document.body.textContent).toContain('Jacket off');
    expect(button('Stop the piece').disabled).toBe(true);
    expect(document.querySelectorAll('input[type=radio]')).toHaveLength(7);
  });
  it('hands over the danger and the note; an empty note is none', async () => {
    const dialog = opened();
    await dialog.vm.$nextTick();
    const [, , light] = document.querySelectorAll<HTMLInputElement>('input[type=radio]');
    light!.click();
    await dialog.vm.$nextTick();
    const note = document.querySelector('textarea')!;
    note.value = '  ';
    note.dispatchEvent(new Event('input'));
    button('Stop the piece').click();
    expect(dialog.emitted('stop')).toEqual([['light', null]]);
  });
  it('can be left without one', async () => {
    const dialog = opened();
    await dialog.vm.$nextTick();
    button('Go on with the piece').click();
    expect(dialog.emitted('close')).toHaveLength(1);
    expect(dialog.emitted('stop')).toBeUndefined();
  });
  it('that stands is told with its note, and taken back by who may', async () => {
    const notice = mount(StopNotice, { props: { stops: [stop], canTakeBack: true } });
    expect(notice.text()).toContain('Safety glasses off: on the forehead.');
    expect(notice.text()).toContain('Stripping fails');
    await notice.get('button').trigger('click');
    expect(notice.emitted('takeBack')).toEqual([['e1']]);
    expect(
      mount(StopNotice, { props: { stops: [stop], canTakeBack: false } })
        .find('button')
        .exists(),
    ).toBe(false);
    expect(mount(StopNotice, { props: { stops: [], canTakeBack: true } }).text()).toBe('');
  });
  it('stands in its skill on the outcome', () => {
    const panel = mount(OutcomePanel, {
      props: {
        sheet: LC_WEDGE_LOCATOR,
        outcome: { ...open, verdict: 'fail', stops: [stop] },
        ifSigned: null,
        criteria,
        signed: false,
        pending: 0,
        canSign: true,
        dismissed: new Set<string>(),
      },
    });
    expect(panel.get('[data-skill=strip]').text()).toContain('Stopped for safety: safety glasses off');
    expect(panel.get('[data-skill=cleave]').text()).not.toContain('Stopped');
  });
});

describe('what can be done with the current criterion', () => {
  const dock = (props: object) =>
    mount(SheetDock, {
      props: {
        item: item('coating-gone'),
        outcome: outcomeOf('coating-gone'),
        undoLabel: null,
        openInStep: 2,
        openSampled: 5,
        ...props,
      },
    });
  const act = (found: ReturnType<typeof dock>, words: string) =>
    found.findAll('button').find((b) => b.text().includes(words));

  it('passes the checks of the step in one act, where there is more than one', async () => {
    const many = dock({});
    await act(many, 'Pass 2 checks')!.trigger('click');
    expect(many.emitted('passStep')).toHaveLength(1);
    expect(act(dock({ openInStep: 1 }), 'Pass 1')).toBeUndefined();
  });
  it('says that the rest was not seen, while there is a rest', async () => {
    const some = dock({});
    await act(some, 'Rest not seen')!.trigger('click');
    expect(some.emitted('restNotSeen')).toHaveLength(1);
    expect(act(dock({ openSampled: 0 }), 'Rest not seen')).toBeUndefined();
  });
  it('undoes only what is there', () => {
    expect(act(dock({}), 'Undo')!.attributes('disabled')).toBeDefined();
    expect(act(dock({ undoLabel: 'Take back: x' }), 'Undo')!.attributes('disabled')).toBeUndefined();
  });
});

describe('the end face of a piece that was graded in Faces', () => {
  const field = (graded: string | null) =>
    mount(GradeField, {
      props: { criterion: item('end-face').criterion as GradeCriterion, entry: null, locked: false, graded },
    });
  const button = (found: ReturnType<typeof field>, words: string) =>
    found.findAll('button').find((b) => b.text().includes(words))!;
  it('has its level from the grade, by one tap', async () => {
    const graded = field('damaged');
    expect(graded.text()).toContain('Graded in Faces: Scratch, pit or crack in the core zone');
    await button(graded, 'Take it').trigger('click');
    expect(graded.emitted('value')).toEqual([[{ kind: 'grade', level: 'damaged' }, null]]);
  });
  it('is overruled with a reason only', async () => {
    const graded = field('damaged');
    await button(graded, 'Clean').trigger('click');
    expect(graded.emitted('value')).toBeUndefined();
    expect(button(graded, 'Overrule').attributes('disabled')).toBeDefined();
    await graded.get('input').setValue('the picture is of the other end');
    await graded.get('form').trigger('submit');
    expect(graded.emitted('value')).toEqual([
      [{ kind: 'grade', level: 'clean' }, 'the picture is of the other end'],
    ]);
  });
  it('without a grade is what the eye says', async () => {
    const eye = field(null);
    expect(eye.text()).not.toContain('Graded in Faces');
    await button(eye, 'Clean').trigger('click');
    expect(eye.emitted('value')).toEqual([[{ kind: 'grade', level: 'clean' }, null]]);
  });
  it('the newest graded picture counts', () => {
    const row = (takenAt: string, verdict: 'pass' | 'fail' | null) => ({
      takenAt,
      verdict,
      view: 'single',
      faults: [],
    });
    const rows = [row('2026-03-02', 'fail'), row('2026-03-03', 'pass'), row('2026-03-04', null)];
    expect(levelOfRows(rows as never)).toBe('clean');
    expect(levelOfRows([])).toBeNull();
  });
});

describe('a count', () => {
  const field = () =>
    mount(CountField, {
      props: {
        criterion: item('cleanings').criterion as CountCriterion,
        entry: null,
        outcome: outcomeOf('cleanings'),
        locked: false,
      },
    });
  it('says at once what it cannot take, and takes nothing', async () => {
    const count = field();
    await count.get('input').setValue('1.5');
    expect(count.get('[role=alert]').text()).toBe('Whole cleanings only, 0 to 9999.');
    expect(count.get('.take').attributes('disabled')).toBeDefined();
    await count.get('input').trigger('keydown.enter');
    expect(count.emitted('value')).toBeUndefined();
    await count.get('input').setValue('2');
    expect(count.find('[role=alert]').exists()).toBe(false);
    await count.get('.take').trigger('click');
    expect(count.emitted('value')).toEqual([[{ kind: 'count', count: 2 }]]);
  });
  it('goes up and down by one and never under none', async () => {
    const count = field();
    const [less, more] = count.findAll('button');
    await less!.trigger('click');
    expect(count.get('input').element.value).toBe('0');
    await more!.trigger('click');
    await more!.trigger('click');
    expect(count.get('input').element.value).toBe('2');
  });
});
