import {
  type Consumable,
  type Drill,
  isTradeSkill,
  type OwnDrill,
  type Skill,
  type TradeSkill,
} from '@clear-mark/core';

const piece = (name: string, each = 1): Consumable => ({ name, each, unit: '' });
const length = (name: string, each: number): Consumable => ({ name, each, unit: 'm' });
const WIPES = piece('lint-free wipes', 2);

/** What to practise for a skill as a whole: short pieces of the step, not whole connectors. Common practice, house figures. */
const OF_SKILL: Readonly<Record<TradeSkill, Drill>> = {
  strip: {
    title: 'Strip to length',
    how: 'Strip one end after the other to the drawing’s lengths, wipe, and look for a nick under the loupe before the next.',
    minutesEach: 6,
    consumables: [length('practice cord', 0.25), WIPES],
  },
  cleave: {
    title: 'Ten cleaves, each looked at',
    how: 'Strip, wipe once, cleave in one stroke, and measure angle and face of each before the next; offcuts into the bin at once.',
    minutesEach: 4,
    consumables: [length('practice fiber', 0.15), WIPES],
  },
  terminate: {
    title: 'Connectors to the end',
    how: 'Make whole connectors and stop after each: end face, then loss, and name the step that explains what is seen.',
    minutesEach: 18,
    consumables: [piece('connector'), length('practice cord', 0.5), WIPES, piece('crimp sleeve')],
  },
  splice: {
    title: 'Splice, look, estimate',
    how: 'Clean the grooves, splice, and say the loss before the splicer does; make again what shows a line or a bubble.',
    minutesEach: 9,
    consumables: [piece('protection sleeve'), length('practice fiber', 0.6), WIPES],
  },
  inspect: {
    title: 'Inspect, clean, inspect',
    how: 'Call the face before cleaning and again after, with the zones named; clean dry first, wet to dry when it stays.',
    minutesEach: 3,
    consumables: [piece('strokes of the pen-type cleaner', 2), piece('lint-free wipes', 1)],
  },
  test: {
    title: 'Reference, then three readings',
    how: 'Inspect and clean every end, set the reference, leave the launch cord on the source, and read the same link three times.',
    minutesEach: 8,
    consumables: [piece('strokes of the pen-type cleaner', 4)],
  },
};

/** Closer drills for what costs most, by the last part of the criterion’s id, which methods share. */
const OF_CRITERION: Readonly<Record<string, Partial<Drill> & Pick<Drill, 'title' | 'how'>>> = {
  'cleave-angle': {
    title: 'Angle only',
    how: 'Cleave with a straight, clamped fiber and an even stroke; measure each angle and stop at three in a row under the limit.',
  },
  'cleave-length': {
    title: 'Length only',
    how: 'Set the fiber against the scale without pressing, cleave, and measure; note the offset of each from the target.',
  },
  'no-nick': {
    title: 'No nick',
    how: 'Strip short windows with the blade square to the fiber, then bend each gently: a nicked one breaks.',
  },
  'boot-on': {
    title: 'Parts on first',
    how: 'Before any tool is lifted, thread boot and sleeve, touch them, say it aloud; ten starts without finishing the piece.',
    minutesEach: 2,
    consumables: [],
  },
  'bare-length': {
    title: 'Bare length',
    how: 'Mark, strip, measure against the drawing; five within the tolerance in a row before cleaving anything.',
  },
  'reference-set': {
    title: 'Reference and back',
    how: 'Set a reference, take it down and set it again; the two may differ by no more than the drift limit.',
  },
  'inspect-call': {
    title: 'Series of blind calls',
    how: 'Call a series of faces near the limits without help, then go through the misses one by one.',
  },
};

/** For a school's own skill, of which nothing else is known. */
const OF_OWN_SKILL: Drill = {
  title: 'The steps of this skill, one by one',
  how: 'Make the steps that belong to it and stop after each: look, measure, and name what is off before the next.',
  minutesEach: 10,
  consumables: [],
};

/**
 * The drill for a skill, closer where the criterion that cost most is known to have one. A school's own goes before a shipped
 * one that is as close.
 */
export function drillFor(skill: Skill, criterionId: string | null, own: readonly OwnDrill[]): Drill {
  const name = criterionId?.split('/').at(-1);
  const ofSkill = own.filter((d) => d.skill === skill);
  const ownCloser = ofSkill.find((d) => d.criterion !== null && d.criterion === name);
  if (ownCloser) return ownCloser;
  const whole = isTradeSkill(skill) ? OF_SKILL[skill] : OF_OWN_SKILL;
  const closer = name === undefined ? undefined : OF_CRITERION[name];
  if (closer) return { ...whole, ...closer };
  return ofSkill.find((d) => d.criterion === null) ?? whole;
}

/** What several drills take together, summed by name; whole things are whole. */
export function consumablesOf(
  items: readonly { readonly drill: Drill; readonly pieces: number }[],
): Consumable[] {
  const sums = new Map<string, Consumable>();
  for (const { drill, pieces } of items) {
    for (const c of drill.consumables) {
      sums.set(c.name, { ...c, each: (sums.get(c.name)?.each ?? 0) + c.each * pieces });
    }
  }
  return [...sums.values()]
    .map((c) => ({ ...c, each: c.unit === '' ? Math.ceil(c.each) : Math.ceil(c.each * 10) / 10 }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
}
