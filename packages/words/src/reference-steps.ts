import type { ReferenceMethod } from '@clear-mark/core';

interface Steps {
  readonly reference: readonly string[];
  readonly test: readonly string[];
}

const BEFORE =
  'Source and meter on and settled, auto-off disabled, same wavelength on both; every end inspected and clean.';
const MANDREL = 'Multimode: launch cord round its mandrel, or a mode-controlled one.';
const ZERO = 'Set zero, see 0.00 dB. From now on the launch cord stays on the source.';
const READ = 'Let the reading settle, save it under the fiber’s number, read the other wavelength.';
const BACK =
  'At the end put the reference together again: it must still read 0.00 dB within the drift allowed.';

/** What is done in which order, for the reference and for the test. Source: common practice; multi-fiber from memory. */
export const REFERENCE_STEPS: Readonly<Record<ReferenceMethod, Steps>> = {
  one_cord: {
    reference: [BEFORE, MANDREL, 'Launch cord from source straight into the meter.', ZERO],
    test: [
      'Take the cord off the meter only.',
      'Launch cord to the near end, receive cord from the far end to the meter.',
      READ,
      BACK,
    ],
  },
  two_cord: {
    reference: [BEFORE, MANDREL, 'Launch and receive cord joined by one adapter.', ZERO],
    test: ['Part the cords at the adapter.', 'Link in between, with a second adapter.', READ, BACK],
  },
  three_cord: {
    reference: [BEFORE, MANDREL, 'Launch, middle and receive cord with two adapters.', ZERO],
    test: ['Take the middle cord out.', 'Link in its place, between the same two adapters.', READ, BACK],
  },
  single_cord: {
    reference: [BEFORE, MANDREL, 'Launch cord from source straight into the meter.', ZERO],
    test: [
      'Take the cord off the meter only.',
      'Launch cord to the near plug, far plug straight into the meter.',
      READ,
      'Turn the cord round and read its other connector.',
    ],
  },
  breakout: {
    reference: [BEFORE, MANDREL, 'Launch cord from source straight into the meter.', ZERO],
    test: [
      'A breakout cord on each end of the link; pins and key looked at first.',
      'Launch cord to leg 1 of the near one, receive cord from leg 1 of the far one.',
      'Read leg by leg without setting the reference again: both breakouts are in the reading.',
      BACK,
    ],
  },
  large_area: {
    reference: [BEFORE, MANDREL, 'Breakout launch cord, its row straight into the large-area meter.', ZERO],
    test: [
      'Take the row off the meter only.',
      'Row to the near end, receive cord from the far end to the meter.',
      'Light leg by leg at the source; the meter sees every fiber.',
      BACK,
    ],
  },
};
