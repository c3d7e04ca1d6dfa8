import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step } from '../../build.ts';
import { LIVE_FIBER_CAUTIONS } from '../../common/cautions.ts';
import { cleaving } from '../../common/cleave-steps.ts';
import { bareGlass, benchReady, kit, partsOn } from '../../common/prepare-steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { afterLock, insert, lookByChoice, THINGS } from '../prepolished-parts.ts';

function handleCrimped(): MethodSheet {
  const c = criteriaOf('handle-crimp');
  return method({
    name: 'handle-crimp',
    title: 'Pre-polished SC or LC on buffered fiber, handle-operated crimp tool',
    summary:
      'Buffered fiber, no jacket, yarn or sleeve. Pushed home with a slight bow and locked by the full stroke of the handle. The front cap is used once.',
    pieceKind: 'connector',
    things: THINGS,
    cautions: LIVE_FIBER_CAUTIONS,
    look: lookByChoice(c),
    steps: [
      benchReady(c),
      kit(
        c,
        'Single-mode or multimode by the fiber. Rear grommet off; the front cap stays, new, and no other cap is put on.',
      ),
      step(
        'tool',
        'Connector in the tool',
        'terminate',
        'connector',
        'Handle and securing lever open, guide slot clean. Knurled shaft in the slot, housing turned any way, lever shut on the knurl.',
        [
          c.check(
            'cap-once',
            'Front cap on and new',
            4,
            commonPractice('it deforms in the crimp: used again, loss rises'),
            'cap_reused cap_off',
            { critical: true },
          ),
          c.check(
            'knurl',
            'Lever shut on the knurl, slot clean',
            2,
            commonPractice('knurled shaft in the slot'),
            'not_on_knurl slot_dirty',
            {
              sampled: true,
            },
          ),
        ],
      ),
      partsOn(c, 'Boot on, narrow end first', 'Boot on, narrow end leading, out of the way.'),
      ...bareGlass(c, {
        how: 'Card: strip length and reference line marked. Buffer off in small sections, coating looked for.',
        bites: { least: '2', words: 'small sections' },
        coatingSaid: true,
        passes: { least: '2', words: 'two alcohol passes' },
        wipe: 'Two passes with alcohol. The reference line on the buffer stays.',
      }),
      ...cleaving(c, {
        lowerMm: '7.5',
        upperMm: '8.5',
        targetMm: '8',
        words: 'buffer edge at the 8 mm mark',
        wipeSaid: true,
      }),
      insert(
        c,
        {
          how: 'Along the channel, tip not dragged, straight into the lead-in without bumping its edge. Resistance: turn the fiber, never force. Firm stop at the stub; then press in, slight bow in the fiber, hold.',
          label: 'Firm stop at the stub, slight bow held',
        },
        [
          c.check(
            'line',
            'Reference line just outside the lead-in',
            3,
            commonPractice('visible just before the lead-in; no distance is said'),
            'line_off',
          ),
        ],
      ),
      step(
        'crimp',
        'Crimped',
        'terminate',
        'connector',
        'Handle fully down while the bow is held. Lever open, connector straight up.',
        [
          c.check(
            'full-stroke',
            'Full stroke of the handle, bow held',
            5,
            commonPractice('handle fully down while pressing'),
            'half_stroke bow_let_go',
            {
              critical: true,
            },
          ),
          c.check(
            'straight-out',
            'Lifted straight up',
            2,
            commonPractice('lever open, straight up'),
            'lifted_askew',
            {
              sampled: true,
            },
          ),
        ],
      ),
      step(
        'boot',
        'Boot pressed on',
        'terminate',
        'connector',
        'Hold the housing: pulling the fiber opens a gap in the splice and loss jumps.',
        [
          c.check(
            'fiber-not-pulled',
            'Boot on by the housing, fiber not pulled',
            4,
            commonPractice('the fiber is never pulled'),
            'fiber_pulled buffer_bent',
            {
              critical: true,
            },
          ),
        ],
      ),
      ...afterLock(
        c,
        'Face cleaned before connection, alcohol wipe then dry wipe: not required, always good practice, above all if the cap came off. Both ends off source and meter; look, clean if needed, look again.',
      ),
    ],
  });
}

export const HANDLE_CRIMP: MethodSheet = handleCrimped();
