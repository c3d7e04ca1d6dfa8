import {
  DEFAULT_LOSS_SETTINGS,
  type LinkPlan,
  type LinkSegment,
  type ReferenceMethod,
} from '@clear-mark/core';

export interface ExampleLink {
  readonly label: string;
  readonly plan: LinkPlan;
  readonly referenceMethod: ReferenceMethod;
  readonly settings: typeof DEFAULT_LOSS_SETTINGS;
}

const cable = (lengthM: number, polish: 'flat' | 'angled' = 'flat'): LinkSegment => ({
  kind: 'cable',
  lengthM,
  polish,
});
const cassette: LinkSegment = { kind: 'cassette', polish: 'flat', turned: false, pins: true };
const settings = DEFAULT_LOSS_SETTINGS;

/** One link of each shape, to begin from: lengths and names are made up. */
export const EXAMPLE_LINKS: readonly ExampleLink[] = [
  {
    label: 'Riser with two pigtails',
    referenceMethod: 'one_cord',
    settings,
    plan: {
      fiberClass: 'OS2',
      fibers: 1,
      ends: ['panel', 'panel'],
      segments: [cable(1), cable(198), cable(1)],
      joints: ['splice', 'splice'],
    },
  },
  {
    label: 'Patch cord, 2 m',
    referenceMethod: 'three_cord',
    settings,
    plan: { fiberClass: 'OS2', fibers: 1, ends: ['plug', 'plug'], segments: [cable(2)], joints: [] },
  },
  {
    label: 'Yard run with a cross-connect',
    referenceMethod: 'one_cord',
    settings: { ...settings, coefficients: 'outside' },
    plan: {
      fiberClass: 'OS2',
      fibers: 1,
      ends: ['panel', 'panel'],
      segments: [cable(1400, 'angled'), cable(3, 'angled'), cable(900, 'angled')],
      joints: ['connection', 'connection'],
    },
  },
  {
    label: 'Bench row, multimode',
    referenceMethod: 'two_cord',
    settings,
    plan: { fiberClass: 'OM3', fibers: 1, ends: ['panel', 'plug'], segments: [cable(300)], joints: [] },
  },
  {
    label: 'Trunk with two cassettes',
    referenceMethod: 'one_cord',
    settings,
    plan: {
      fiberClass: 'OM4',
      fibers: 12,
      ends: ['panel', 'panel'],
      segments: [cassette, { kind: 'trunk', lengthM: 31, polish: 'flat', trunk: 'A', pins: false }, cassette],
      joints: ['connection', 'connection'],
    },
  },
  {
    label: 'Bare trunk, breakout cords',
    referenceMethod: 'breakout',
    settings,
    plan: {
      fiberClass: 'OM4',
      fibers: 12,
      ends: ['plug', 'plug'],
      segments: [{ kind: 'trunk', lengthM: 40, polish: 'flat', trunk: 'B', pins: false }],
      joints: [],
    },
  },
];
