import type { ConclusionCode, Conclusion, Direction, LinkFinding, ReferenceMethod } from '@clear-mark/core';
import { DIRECTION_WORDS } from './names.ts';
import { type Params, say } from './params.ts';

const db = (p: Params, name: string, digits = 2): string => `${Number(p[name]).toFixed(digits)} dB`;
const way = (p: Params): string => DIRECTION_WORDS[p['direction'] as Direction] ?? say(p, 'direction');

/** What would settle a reading that lies within the uncertainty of its limit. */
function settles(method: ReferenceMethod): string {
  switch (method) {
    case 'two_cord':
    case 'three_cord':
      return 'A one-cord reference, where the meter’s port allows it, and freshly cleaned ends would settle it.';
    case 'breakout':
      return 'A breakout launch cord into a large-area meter would settle it.';
    case 'one_cord':
    case 'single_cord':
    case 'large_area':
      return 'Clean both ends, take reference-grade cords and read it again.';
    default: {
      const never: never = method;
      return never;
    }
  }
}

const CONCLUSIONS: Readonly<Record<ConclusionCode, (p: Params) => string>> = {
  reference_bad: (p) =>
    `${db(p, 'loss')} at ${say(p, 'wavelength')} nm would be a gain: the reference was bad. Clean the launch cord, set the reference again and leave the cord on the source.`,
  test_void: (p) =>
    `${Number(p['count']) === 1 ? 'A reading is' : `${say(p, 'count')} readings are`} void, which says nothing of the link. Put the set-up right and read again.`,
  no_light: (p) =>
    `No light in ${say(p, 'count')} of ${say(p, 'of')} readings${p['fibers'] ? `, fiber ${say(p, 'fibers')}` : ''}. Trace it with the fault locator: not mated, another port, or broken.`,
  multimode_into_single: (p) =>
    `${db(p, 'loss')} ${way(p)} and only ${db(p, 'back')} the other way: a multimode core feeds a single-mode one. A single-mode cord or pigtail is in this link; find it by its jacket and print.`,
  core_mismatch: (p) =>
    `${db(p, 'loss')} ${way(p)} and only ${db(p, 'back')} the other way: a larger core feeds a smaller one. Look for a cord of the wrong core size.`,
  core_suspected: (p) =>
    `${db(p, 'over')} more than good work may also be a cord of a larger core into ${say(p, 'into')}. Read it the other way: such a fault loses next to nothing there.`,
  bend: (p) =>
    `${say(p, 'wavelength')} nm loses ${db(p, 'over')} more than ${say(p, 'shorter')} nm (a bend from ${db(p, 'step')} on). Follow the link for a tight bend or a pinched tie.`,
  one_fiber: (p) =>
    `Only fiber ${say(p, 'fiber')} fails, ${db(p, 'loss')} against a limit of ${db(p, 'limit')}; ${say(p, 'others')} others pass. Look at that fiber’s port and its place in the row.`,
  one_direction: (p) =>
    `Over the limit by ${db(p, 'over')} ${way(p)} only. Clean and look at the ends that this direction meets last, then read both again.`,
  joints: (p) =>
    `${db(p, 'over')} over the limit at ${say(p, 'wavelength')} nm without the mark of a bend: dirt or a bad joint. Inspect and clean its ${say(p, 'connections')} counted connections, then read again.`,
  mode_conditioning: (p) =>
    `${db(p, 'over')} over the limit without a conditioned launch, which can add half a decibel. Wrap the launch cord round the mandrel and read again before judging the link.`,
  not_conformant: (p) =>
    `${db(p, 'loss')} was read without a conditioned launch: the number stands, the verdict does not. Repeat it with the mandrel or a mode-controlled cord.`,
  marginal: (p) =>
    `Passes by ${db(p, 'distance')}, less than the uncertainty of ${db(p, 'uncertainty')}. ${settles(p['method'] as ReferenceMethod)}`,
  suspect: (p) =>
    `${db(p, 'loss', 3)} is less than the fiber alone must lose (${db(p, 'floor', 3)}). Check length, wavelength and reference.`,
  poor_work: (p) =>
    `Passes, but good work loses about ${db(p, 'expected')} here and this ${db(p, 'loss')}: ${db(p, 'over')} too much${Number(p['each']) > 0 ? `, about ${db(p, 'each')} on each connection` : ''}. Clean or make again the worst joint.`,
  good_work: (p) => `Good work: ${db(p, 'loss')} where about ${db(p, 'expected')} was to be expected.`,
};

/** A conclusion in one or two sentences: the evidence, and what to do next. */
export function conclusionWords({ code, params }: Conclusion): string {
  return CONCLUSIONS[code](params);
}

const FINDINGS: Readonly<Record<LinkFinding['code'], (p: Params) => string>> = {
  'link.all_dark': () => 'Every fiber is said to be dark by design: nothing is left to test.',
  'link.empty': () => 'A link needs at least one cable. Add the first part.',
  'link.bare_end': (p) =>
    `The ${say(p, 'end')} end has no connector, so no cord can be mated to it. Choose a panel or a plug.`,
  'link.no_length': (p) => `Part ${say(p, 'segment')} needs a length over 0.`,
  'link.too_long': (p) =>
    `${say(p, 'km')} km is longer than a link of this fiber is believed to be (${say(p, 'most')} km). Check the unit: metres or feet.`,
  'link.splice_mpo': (p) => `Joint ${say(p, 'joint')} cannot be a splice: trunks and cassettes plug.`,
  'link.angled_to_flat': (p) =>
    `Joint ${say(p, 'joint')} mates an angled end to a flat one: high loss and marked faces. They do not belong together.`,
  'link.core_mixed': (p) =>
    `Part ${say(p, 'segment')} has a ${say(p, 'coreUm')} µm core in a ${say(p, 'wants')} µm link: about 3 dB one way.`,
  'link.pins_both': (p) => `Joint ${say(p, 'joint')} has pins on both sides: they break each other.`,
  'link.pins_none': (p) => `Joint ${say(p, 'joint')} has pins on neither side: nothing aligns the fibers.`,
};

/** What is wrong with a described link, and what to do. */
export function linkFindingWords(finding: LinkFinding): string {
  return FINDINGS[finding.code](finding.params as Params);
}
