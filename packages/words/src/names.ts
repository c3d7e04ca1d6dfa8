import type {
  Call,
  Coverage,
  Direction,
  Flag,
  Hazard,
  Material,
  PowerFault,
  ReadingVoidReason,
  ReferenceMethod,
  Skill,
  Source,
  StandingName,
  ThingKind,
  TradeSkill,
  TradeThing,
  Unit,
  Verdict,
} from '@clear-mark/core';
import { isTradeSkill, isTradeThing, ownNameWords } from '@clear-mark/core';
import type { InstrumentKind, MethodVersion, Revision, StationFault } from '@clear-mark/contract';

const TRADE_SKILL_WORDS: Readonly<Record<TradeSkill, string>> = {
  strip: 'Stripping',
  cleave: 'Cleaving',
  terminate: 'Termination',
  splice: 'Splicing',
  inspect: 'Inspection',
  test: 'Loss test',
};

/** The name of a skill, as a heading has it. */
export const skillWords = (skill: Skill): string =>
  isTradeSkill(skill) ? TRADE_SKILL_WORDS[skill] : ownNameWords(skill);

/** The name of a skill within a sentence: small, unless it is written in capitals (`OTDR testing`). */
export const skillInText = (skill: Skill): string => inText(skillWords(skill));

const inText = (words: string): string =>
  /^\p{Lu}[\p{Lu}\p{N}]/u.test(words) ? words : words.charAt(0).toLowerCase() + words.slice(1);

/** What can hurt at the bench, as a caution would name it. */
export const MATERIAL_WORDS: Readonly<Record<Material, string>> = {
  shards: 'bare fiber and its offcuts',
  light: 'laser light from a fiber',
  solvent: 'alcohol or another solvent',
  adhesive: 'adhesive on skin and in eyes',
  heat: 'hot tools',
  arc: 'the arc of the splicer',
};

/** How a criterion is filled, as a tag beside its label; a required one needs none. */
export const COVERAGE_WORDS: Readonly<Record<Coverage, string>> = {
  required: '',
  sampled: 'when seen',
  trainee: 'trainee’s own',
};

/** What a piece was stopped for. */
export const HAZARD_WORDS: Readonly<Record<Hazard, string>> = {
  eyes: 'Safety glasses off',
  shards: 'Glass shards loose',
  light: 'A live end looked into, or under the microscope',
  arc_heat: 'Arc or heat',
  chemistry: 'Chemicals',
  food: 'Food or drink at the bench',
  other: 'Another danger',
};

export const VERDICT_WORDS: Readonly<Record<Verdict, string>> = {
  pass: 'Pass',
  marginal_pass: 'Marginal pass',
  marginal_fail: 'Marginal fail',
  fail: 'Fail',
  void: 'Void',
  incomplete: 'Incomplete',
};

/** What a signed record is, in words. */
export const REVISION_KIND_WORDS: Readonly<Record<Revision['kind'], string>> = {
  signed: 'Signed',
  signed_incomplete: 'Signed incomplete',
  void: 'Made void',
  amended: 'Amended',
};

export const STANDING_WORDS: Readonly<Record<StandingName, string>> = {
  not_tried: 'Not tried',
  learning: 'Learning',
  competent: 'Competent',
  watch: 'Watch',
  retrain: 'Retrain',
  lapsed: 'Lapsed',
};

const TRADE_THING_WORDS: Readonly<Record<TradeThing, string>> = {
  bench: 'Bench',
  cleaver: 'Cleaver',
  splicer: 'Splicer',
  scope: 'Microscope',
  film: 'Film',
  batch: 'Adhesive batch',
  cord: 'Launch cord',
  instrument: 'Instrument',
  oven: 'Oven',
  supply: 'Parts and wipes',
};

export const thingWords = (kind: ThingKind): string =>
  isTradeThing(kind) ? TRADE_THING_WORDS[kind] : ownNameWords(kind);

/** A kind of equipment within a sentence. */
export const thingInText = (kind: ThingKind): string => inText(thingWords(kind));

export const REFERENCE_WORDS: Readonly<Record<ReferenceMethod, string>> = {
  one_cord: 'one cord',
  two_cord: 'two cords',
  three_cord: 'three cords',
  single_cord: 'launch cord, then straight into the meter',
  breakout: 'one cord, breakout cords at both ends',
  large_area: 'breakout launch cord, large-area meter',
};

export const DIRECTION_WORDS: Readonly<Record<Direction, string>> = { a_b: 'A to B', b_a: 'B to A' };

export const CALL_WORDS: Readonly<Record<Call, string>> = { pass: 'good', fail: 'bad' };

export const UNIT_WORDS: Readonly<Record<Unit, string>> = {
  mm: 'mm',
  um: 'µm',
  m: 'm',
  km: 'km',
  in: 'in',
  ft: 'ft',
  s: 's',
  min: 'min',
  deg: '°',
  dB: 'dB',
  dBm: 'dBm',
  mW: 'mW',
  uW: 'µW',
  nW: 'nW',
  '1': '',
};

export const VOID_WORDS: Readonly<Record<ReadingVoidReason, string>> = {
  wrong_wavelength: 'source and meter on different wavelengths',
  wrong_core_size: 'a cord of the wrong core size',
  launch_cord_taken_off: 'the launch cord was taken off the source',
  setup_broken: 'the set-up was broken',
};

export const FLAG_WORDS: Readonly<Record<Flag, string>> = {
  not_conformant: 'The method was not kept: a pass is not accepted.',
  suspect: 'Less than the fiber alone must lose: look at the reference.',
  gain_within_uncertainty: 'Slightly below zero: a gain within the uncertainty.',
  decimal_slip_confirmed: 'Far outside, and confirmed as typed.',
  bend_suspected: '1550 nm is far above 1310 nm: look for a bend.',
  poor_for_good_work: 'Passes, above expected loss.',
  calibration_overdue: 'The instrument’s calibration had run out.',
};

const SOURCE_KIND: Readonly<Record<Source['kind'], string>> = {
  common_practice: 'common practice',
  standard: 'standard',
  house: 'house',
};

/** The kind of a source, with the warning that a value from memory carries. */
export function sourceKindWords(source: Pick<Source, 'kind' | 'fromMemory'>): string {
  return SOURCE_KIND[source.kind] + (source.fromMemory ? ', from memory' : '');
}

/** A source in full. */
export function sourceWords(source: Source): string {
  const check = source.kind === 'standard' && source.fromMemory ? '; check it against your own copy' : '';
  return `${sourceKindWords(source)}: ${source.words}${check}`;
}

export const INSTRUMENT_WORDS = {
  power_meter: 'Power meter',
  source: 'Light source',
  splicer: 'Splicer',
  port_light: 'Port light',
  otdr: 'OTDR',
} as const satisfies Readonly<Record<InstrumentKind, string>>;

/** Why an instrument gives nothing, and what to look at. */
export const STATION_FAULT_WORDS: Readonly<Record<StationFault, string>> = {
  unreachable: 'nobody answers at its address: is it on, and on the network?',
  silent: 'connected, and silent',
  closed: 'closed the connection',
  half_a_line: 'stopped in the middle of an answer',
  line_too_long: 'sent an answer without an end',
  bad_block: 'sent a block that cannot be read',
  no_answer: 'nothing comes from it; the lead sees why',
  garbage: 'answers what makes no sense: is this the right instrument?',
  refused: 'refused the order',
};

/** Why something that was shown is no reading. */
export const POWER_FAULT_WORDS: Readonly<Record<PowerFault, string>> = {
  unreadable: 'an answer that cannot be read',
  not_a_number: 'the meter has no number to give',
  over_range: 'more light than the meter can measure',
  unknown_unit: 'a unit that is not one of light',
};

/** What an account may do, by its role. */
export const ROLE_MAY: Readonly<Record<'lead' | 'instructor' | 'trainee', string>> = {
  lead: 'Every class: score, sign and sign off; accounts, instruments, safekeeping',
  instructor: 'The own classes: score, sign, plan, set up',
  trainee: 'The own bench and record',
};

export const METHOD_STATE_WORDS: Readonly<Record<MethodVersion['state'], string>> = {
  draft: 'draft',
  in_force: 'in force',
  retired: 'retired',
};
