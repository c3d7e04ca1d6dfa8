import type { ReferenceMethod } from '../sheet/index.ts';

export const CHAIN_ITEMS = [
  'source',
  'launch',
  'breakout',
  'breakout_launch',
  'middle',
  'link',
  'receive',
  'receive_mpo',
  'meter',
  'large_meter',
] as const;
export type ChainItem = (typeof CHAIN_ITEMS)[number];

/** How two neighbours meet: at an instrument's port, in the zero, or as a mated pair that the reading contains. */
export type ChainJoint = 'port' | 'zeroed' | 'counted';

export interface ChainDrawing {
  readonly items: readonly ChainItem[];
  /** One between every two neighbours. */
  readonly joints: readonly ChainJoint[];
}

/** The set-up of a reference method: what lies between source and meter for the zero and for the test. */
export interface ReferenceSetUp {
  readonly method: ReferenceMethod;
  readonly reference: ChainDrawing;
  readonly test: ChainDrawing;
  /** Cords, of any kind, in the reference: what is zeroed is one pair less. */
  readonly cords: number;
  /** Adapters in the reference, each of which adds to the uncertainty. */
  readonly adapters: number;
}

const chain = (items: string, joints: string): ChainDrawing => ({
  items: items.split(' ') as ChainItem[],
  joints: joints.split(' ') as ChainJoint[],
});

/**
 * The set-ups, drawn and counted from one table. Pairs of the test that the reference held as well are zeroed, from the
 * near end on; which of two equal ones is the zeroed one cannot be said, and only their number counts.
 * Source: common practice; the multi-fiber ways from memory.
 */
export const REFERENCE_SET_UPS: Readonly<Record<ReferenceMethod, ReferenceSetUp>> = {
  one_cord: {
    method: 'one_cord',
    reference: chain('source launch meter', 'port port'),
    test: chain('source launch link receive meter', 'port counted counted port'),
    cords: 1,
    adapters: 0,
  },
  two_cord: {
    method: 'two_cord',
    reference: chain('source launch receive meter', 'port zeroed port'),
    test: chain('source launch link receive meter', 'port zeroed counted port'),
    cords: 2,
    adapters: 1,
  },
  three_cord: {
    method: 'three_cord',
    reference: chain('source launch middle receive meter', 'port zeroed zeroed port'),
    test: chain('source launch link receive meter', 'port zeroed zeroed port'),
    cords: 3,
    adapters: 2,
  },
  single_cord: {
    method: 'single_cord',
    reference: chain('source launch meter', 'port port'),
    test: chain('source launch link meter', 'port counted port'),
    cords: 1,
    adapters: 0,
  },
  breakout: {
    method: 'breakout',
    reference: chain('source launch meter', 'port port'),
    test: chain(
      'source launch breakout link breakout receive meter',
      'port counted counted counted counted port',
    ),
    cords: 1,
    adapters: 0,
  },
  large_area: {
    method: 'large_area',
    reference: chain('source breakout_launch large_meter', 'port port'),
    test: chain('source breakout_launch link receive_mpo large_meter', 'port counted counted port'),
    cords: 1,
    adapters: 0,
  },
};
