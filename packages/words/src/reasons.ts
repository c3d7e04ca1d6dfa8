import type {
  Direction,
  EvidenceCode,
  Hazard,
  ReadingVoidReason,
  Reason,
  ReasonCode,
  Source,
  Unit,
} from '@clear-mark/core';
import { faultWords } from './faults.ts';
import { DIRECTION_WORDS, HAZARD_WORDS, sourceKindWords, UNIT_WORDS, VOID_WORDS } from './names.ts';
import { type Params, say } from './params.ts';

const amount = (p: Params, name: string): string => {
  const unit = UNIT_WORDS[p['unit'] as Unit] ?? '';
  return unit === '°' ? `${say(p, name)}°` : `${say(p, name)} ${unit}`.trim();
};
const kind = (p: Params): string =>
  sourceKindWords({ kind: p['source'] as Source['kind'], fromMemory: false });
const why = (p: Params): string => VOID_WORDS[p['why'] as ReadingVoidReason] ?? say(p, 'why');
/** Which of several readings: fiber, wavelength, direction, as far as the reason has them. */
const at = (p: Params): string => {
  const places = [
    p['fiber'] === undefined ? [] : `fiber ${say(p, 'fiber')}`,
    p['wavelength'] === undefined ? [] : `${say(p, 'wavelength')} nm`,
    p['direction'] === undefined ? [] : DIRECTION_WORDS[p['direction'] as Direction],
  ].flat();
  return places.length === 0 ? '' : ` at ${places.join(', ')}`;
};
const ports = (p: Params): string => say(p, 'ports').split(' ').join(', ');
const db = (p: Params, name: string): string => `${Number(p[name]).toFixed(2)} dB`;
const plural = (n: string | number | undefined, one: string, many: string): string =>
  Number(n) === 1 ? `1 ${one}` : `${n} ${many}`;

/** Parts as core names them, `2:trunk_type:B|1:cassette_turned`, as a sentence with all options. */
function optionsWords(options: string): string {
  const words = options.split('|').map((faults) => faults.split('+').map(partFaultWords).join(' and '));
  const ties = words.length > 1 ? '; a walk alone cannot tell which' : '';
  return `${words.join(', or ')}${ties}`;
}

function partFaultWords(fault: string): string {
  const [part = '', kind, type] = fault.split(':');
  switch (kind) {
    case 'trunk_type':
      return `the trunk (part ${part}) is type ${type}`;
    case 'cassette_turned':
      return `the cassette (part ${part}) is turned`;
    default:
      return `the cords (part ${part}) are of the other kind`;
  }
}

type LabelOf = (criterionId: string) => string;

const REASONS: Readonly<Record<ReasonCode, (p: Params, label: LabelOf) => string>> = {
  'check.failed': (p) =>
    p['faults'] ? say(p, 'faults').split(' ').map(faultWords).join(', ') : 'not as the method says',
  'band.over': (p) => `${amount(p, 'value')}${at(p)}, limit ${amount(p, 'limit')} (${kind(p)})`,
  'band.shorter_than': (p, label) => `${amount(p, 'by')} shorter than ${label(say(p, 'criterion'))}`,
  'band.under': (p) => `${amount(p, 'value')}${at(p)}, at least ${amount(p, 'limit')} (${kind(p)})`,
  'band.marginal': (p) =>
    `${amount(p, 'value')}${at(p)} is within ${amount(p, 'uncertainty')} of the limit ${amount(p, 'limit')}`,
  'band.marginal_over': (p) =>
    `${amount(p, 'value')}${at(p)}, limit ${amount(p, 'limit')} (${kind(p)}), by less than the uncertainty ${amount(p, 'uncertainty')}`,
  'band.marginal_under': (p) =>
    `${amount(p, 'value')}${at(p)}, at least ${amount(p, 'limit')} (${kind(p)}), by less than the uncertainty ${amount(p, 'uncertainty')}`,
  'grade.level': (p) => say(p, 'level').toLowerCase(),
  'loss.over': (p) => `${db(p, 'loss')}${at(p)}, limit ${db(p, 'limit')} for this link`,
  'loss.marginal': (p) =>
    `${db(p, 'loss')}${at(p)} is within ${db(p, 'uncertainty')} of the limit ${db(p, 'limit')}`,
  'loss.marginal_over': (p) =>
    `${db(p, 'loss')}${at(p)}, limit ${db(p, 'limit')}, by less than the uncertainty ${db(p, 'uncertainty')}`,
  'loss.no_light': (p) => `no light${at(p)}`,
  'loss.part_missing': (p) => `no reading${at(p)} yet`,
  'parts.also_failed': (p) => `and ${plural(p['count'], 'more reading', 'more readings')}`,
  'parts.missing': (p) => `${say(p, 'count')} of ${say(p, 'of')} readings missing`,
  'parts.void': (p) => `${say(p, 'count')} readings void`,
  'map.open': (p) => `${say(p, 'count')} of ${say(p, 'ports')} ports not walked yet`,
  'map.wrong_type': (p) =>
    `the map of a type ${say(p, 'types').split(' ').join(' or ')} trunk; this one must be type ${say(p, 'wanted')}`,
  'map.crossed_pair': (p) => `pair ${say(p, 'a')}–${say(p, 'b')} crossed`,
  'map.crossed_fibers': (p) => `fibers crossed at ports ${ports(p)}`,
  'map.no_light': (p) =>
    `no light from ${say(p, 'ports').includes(' ') ? 'ports' : 'port'} ${ports(p)}: broken or not mated`,
  'map.parts': (p) =>
    `${Number(p['row']) > 0 ? `row ${say(p, 'row')}: ` : ''}${optionsWords(say(p, 'options'))}`,
  'map.rows_exchanged': (p) => `rows ${say(p, 'near')} and ${say(p, 'far')} in each other’s place`,
  'map.row_dark': (p) =>
    `no light in the whole row ${say(p, 'row')}: its connector is not mated, or another one is`,
  'call.bad_called_good': () => 'a bad one called good',
  'call.good_called_bad': () => 'a good one called bad',
  'call.reference_open': (p, label) => `waits for ${label(say(p, 'criterion'))}`,
  'void.follows': (p, label) => `void with ${label(say(p, 'criterion'))}`,
  'void.reading': (p) => `void${at(p)}: ${why(p)}`,
  'void.negative_loss': (p) => `void${at(p)}: ${db(p, 'loss')} is below zero, so the reference was bad`,
  'void.reference_drift': (p) =>
    `void${at(p)}: the reference moved ${db(p, 'drift')}, allowed ${db(p, 'most')}`,
  'void.reference_leg': (p) =>
    `void${at(p)}: the reference was set through leg ${say(p, 'leg')} of the breakout cord, not through this fiber’s`,
  'void.cord_overdue': (p) =>
    `void${at(p)}: the check of ${say(p, 'cord')} held until ${say(p, 'day')}; check the cord, then read again`,
  'void.cord_failed': (p) =>
    `void${at(p)}: ${say(p, 'cord')} failed its check on ${say(p, 'day')}, ${db(p, 'loss')} of ${db(p, 'limit')} allowed; take another cord`,
  'void.reference_old': (p) =>
    `void${at(p)}: the reference was ${say(p, 'hours')} h old, allowed ${say(p, 'most')} h`,
  'void.reference_unreadable': (p) => `void${at(p)}: the level of its reference is no number`,
  'void.not_conformant_pass': (p) =>
    `${db(p, 'loss')}${at(p)} passes, but the launch was not conditioned: not accepted`,
  'void.not_conformant_fail': (p) =>
    `${db(p, 'loss')}${at(p)} without a conditioned launch: repeat it with the mandrel`,
  'open.not_scored': () => 'not scored yet',
  'open.not_seen': () => 'not seen by the instructor',
  'open.conflict': (p) => `scored ${say(p, 'count')} times without knowledge of each other: choose one`,
  'open.proposed': () => 'entered by the trainee, not witnessed',
  'group.stop_breach': (p, label) => `Stopped: ${label(say(p, 'criterion'))}`,
  'group.stopped': (p) =>
    `Stopped for safety: ${(HAZARD_WORDS[p['hazard'] as Hazard] ?? say(p, 'hazard')).toLowerCase()}`,
  'group.critical_failed': (p, label) => `Critical: ${label(say(p, 'criterion'))}`,
  'group.pass_mark_missed': (p) =>
    `At best ${say(p, 'best')} of ${say(p, 'possible')} points, pass mark ${say(p, 'mark')} %`,
  'group.test_void': (p, label) => `No valid reading: ${label(say(p, 'criterion'))}`,
  'group.required_open': (p) => `${plural(p['count'], 'required criterion', 'required criteria')} open`,
  'group.nothing_scored': () => 'Nothing scored',
  'group.hangs_on_marginal': (p) => `Hangs on ${plural(p['count'], 'marginal result', 'marginal results')}`,
  'group.attempt_void': () => 'The attempt was made void',
};

/** A reason as words. `labelOf` gives the label of a criterion by its id. */
export function reasonWords(reason: Reason, labelOf: LabelOf): string {
  return REASONS[reason.code](reason.params, labelOf);
}

const EVIDENCE: Readonly<Record<EvidenceCode, (p: Params) => string>> = {
  'standing.not_tried': () => 'No outcome with a verdict yet.',
  'standing.lapsed': (p) => `Was competent; no pass within ${say(p, 'months')} months.`,
  'standing.stop_breach': (p) =>
    `A stop breach is not cleared: it takes ${say(p, 'wanted')} passes in a row.`,
  'standing.fails_in_a_row': (p) => `The last ${say(p, 'fails')} of ${say(p, 'n')} outcomes failed.`,
  'standing.chart_signals': (p) =>
    `Was competent; ${say(p, 'fails')} of ${say(p, 'of')} outcomes since the chart began failed, more than chance gives.`,
  'standing.slipped': (p) =>
    Number(p['fails']) === 1
      ? 'Was competent; the last outcome failed.'
      : `Was competent; the last ${say(p, 'fails')} outcomes failed.`,
  'standing.only_marginal': (p) => `The last ${say(p, 'marginal')} passes were all marginal.`,
  'standing.competent': (p) => `The last ${say(p, 'passes')} outcomes passed.`,
  'standing.competent_share': (p) =>
    `${say(p, 'passes')} of the last ${say(p, 'of')} outcomes passed, ${say(p, 'wanted')} are wanted.`,
  'standing.competent_chart': (p) => `The chart showed competence at outcome ${say(p, 'piece')}.`,
  'standing.learning_share': (p) =>
    `${say(p, 'passes')} of ${plural(p['of'], 'outcome', 'outcomes')} passed; ${say(p, 'wanted')} of ${say(p, 'window')} show competence.`,
  'standing.learning_chart': (p) =>
    `${plural(p['n'], 'outcome', 'outcomes')}; the chart has not reached its limit of ${Number(p['limit']).toFixed(1)}.`,
  'standing.learning': (p) =>
    `${plural(p['passes'], 'pass', 'passes')} in a row after ${plural(p['n'], 'outcome', 'outcomes')}; ${say(p, 'wanted')} in a row are wanted.`,
};

/** The sentence that gives a standing's evidence. */
export function evidenceWords(code: EvidenceCode, params: Params): string {
  return EVIDENCE[code](params);
}
