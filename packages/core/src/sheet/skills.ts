import { inOrderOf, isOwnName, type OwnName } from './own-names.ts';

/** The skills of the trade, in the order of the work. */
export const SKILLS = ['strip', 'cleave', 'terminate', 'splice', 'inspect', 'test'] as const;
export type TradeSkill = (typeof SKILLS)[number];
/** A skill of the trade, or a further one of a school. */
export type Skill = TradeSkill | OwnName;

/** Whether a text names a skill of the trade. */
export const isTradeSkill = (text: string): text is TradeSkill =>
  (SKILLS as readonly string[]).includes(text);
/** Whether a text names a skill, of the trade or of a school. */
export const isSkill = (text: string): text is Skill => isTradeSkill(text) || isOwnName(text);

/** Each skill once: those of the trade in the order of the work, then those of the school by name. */
export const skillsInOrder = (skills: Iterable<Skill>): Skill[] => inOrderOf<Skill>(SKILLS, skills);

/** The skills that something is kept of, in order. */
export const skillsOf = (bySkill: Readonly<Partial<Record<Skill, unknown>>>): Skill[] =>
  skillsInOrder(Object.keys(bySkill) as Skill[]);

/** The kinds of equipment that everybody has. */
export const THING_KINDS = [
  'bench',
  'cleaver',
  'splicer',
  'scope',
  'film',
  'batch',
  'cord',
  'instrument',
  'oven',
  'supply',
] as const;
export type TradeThing = (typeof THING_KINDS)[number];
/** One of them, or a further kind of a school. */
export type ThingKind = TradeThing | OwnName;

/** Whether a text names a kind of equipment that everybody has. */
export const isTradeThing = (text: string): text is TradeThing =>
  (THING_KINDS as readonly string[]).includes(text);
/** Whether a text names a kind of equipment, everybody's or a school's. */
export const isThingKind = (text: string): text is ThingKind => isTradeThing(text) || isOwnName(text);

/** Each kind of equipment once: those that everybody has in their order, then those of the school by name. */
export const thingsInOrder = (kinds: Iterable<ThingKind>): ThingKind[] =>
  inOrderOf<ThingKind>(THING_KINDS, kinds);
