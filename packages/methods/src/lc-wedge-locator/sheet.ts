import type { MethodSheet } from '@clear-mark/core';
import { withPractice } from '../practice-options.ts';
import { house } from '../sources.ts';
import { CLEAVE_STEPS } from './cleave-steps.ts';
import { PREPARE_STEPS } from './prepare-steps.ts';
import { TERMINATE_STEPS } from './terminate-steps.ts';
import { TEST_STEPS } from './test-steps.ts';

/**
 * Pre-polished LC on a 2 or 3 mm cord, released by squeezing a wedge, proved with a fault locator.
 * The lengths belong to this kind of connector; the instructions of the connector in hand go before them.
 */
export const LC_WEDGE_LOCATOR: MethodSheet = withPractice({
  id: 'clear-mark/lc-wedge-locator',
  version: 2,
  title: 'Pre-polished LC, wedge released, with fault locator',
  summary:
    'A single-mode LC on one end of a 2 m jacketed cord. The cleaved fiber meets the polished stub in gel; ' +
    'squeezing the wedge holds it. The far end is factory made.',
  pieceKind: 'connector',
  fiberClass: 'OS2',
  passMarkPercent: 80,
  passMarkSource: house('four fifths of the possible points'),
  strip: { jacketMm: 70, bufferMm: 40, cleaveMm: 10.5 },
  thingsUsed: ['bench', 'cleaver', 'scope', 'instrument', 'cord'],
  cautions: [
    {
      stop: true,
      text: 'Glass shards: safety glasses from the first strip to the last sweep, no food or drink at the bench, offcuts on tape or in the sharps container.',
    },
    {
      stop: true,
      text: 'Light: never look into a fiber or connector that is or could be connected to a source. Test wavelengths are invisible; the red fault locator is a laser as well.',
    },
    {
      stop: false,
      text: 'Alcohol and gel: flammable or irritating. Ventilate, keep from eyes and skin, know where the safety sheet is.',
    },
    { stop: false, text: 'Blades and shears: cut away from the hand; keep fingers off the blade carriage.' },
    {
      stop: false,
      text: 'Follow your local codes, your laboratory’s rules and the makers’ safety sheets; this sheet replaces none of them.',
    },
  ],
  steps: [...PREPARE_STEPS, ...CLEAVE_STEPS, ...TERMINATE_STEPS, ...TEST_STEPS],
});
