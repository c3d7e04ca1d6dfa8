import type { MethodSheet } from '@clear-mark/core';
import { atLeast, between, care, criteriaOf, step } from '../../build.ts';
import { BLADES, CABLE, DEFER, GLASS } from '../../common/cautions.ts';
import { around, benchReady, clearUp } from '../../common/prepare-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';

function flatDrop(): MethodSheet {
  const c = criteriaOf('flat-drop');
  return method({
    name: 'flat-drop',
    title: 'Flat drop cable into a furcation tube',
    summary:
      'Both strength members bared and parted unbent, the cable slit along its grooves, the fiber fed into a furcation tube and the tube twisted on. The strip is as long as the tube and the stub that is to stick out.',
    pieceKind: 'cord',
    things: ['bench'],
    cautions: [GLASS, CABLE, BLADES, DEFER],
    steps: [
      benchReady(c),
      step(
        'pulls',
        'Two pulls of the tool',
        'strip',
        'jacket',
        'Wanted length marked: tube length and stub. Slot one, cable on edge, tool shuts snugly, pull: members’ outer sides bare. Slot two, cable flat, about 80 mm a pull; turned, uncut face down, likewise.',
        [
          c.measure(
            'tube-length',
            'Tube length',
            1,
            'mm',
            atLeast('100', house('a tube that can be held and twisted')),
            house('the wanted length is the job’s'),
          ),
          c.measure(
            'strip-length',
            'Overall strip length, at least the tube and the stub',
            4,
            'mm',
            atLeast('20', house('20 mm of fiber to stick out')),
            house('strip length = tube + stub'),
            {
              critical: true,
              less: 'tube-length',
              hint: 'Measured at the cable; a strip shorter than its tube hides the fiber in it.',
            },
          ),
          c.measure(
            'face-pull',
            'Each face pull in slot two',
            1,
            'mm',
            around('80', '15'),
            commonPractice('about 80, more or less allowed'),
            { sampled: true },
          ),
          c.check(
            'both-faces',
            'Edge first, then both faces',
            3,
            commonPractice('slot one, slot two, turned'),
            'slots_swapped one_face_only',
          ),
        ],
      ),
      step(
        'members',
        'Strength members parted',
        'strip',
        'jacket',
        'Parted all the way unbent, cut off; thin leftover cut away.',
        [
          c.check(
            'not-bent',
            'Members parted unbent, cut off',
            4,
            commonPractice('bent, they snap and are hard to remove'),
            'member_snapped',
          ),
        ],
        [care('The strength member is under spring tension.')],
      ),
      step(
        'slit',
        'Slit along the grooves',
        'strip',
        'buffer',
        'In the two grooves, not on the print, only enough to grip; halves pulled apart to the strip’s end, fiber freed, halves cut short.',
        [
          c.check(
            'grooves',
            'Slit in both grooves, not on the print',
            4,
            commonPractice('in the two grooves'),
            'slit_at_print',
          ),
          c.check(
            'fiber-untouched',
            'Fiber not cut as the halves were trimmed',
            4,
            house('begun again where it is cut'),
            'fiber_cut',
            { critical: true },
          ),
        ],
      ),
      step(
        'tube',
        'Furcation tube on',
        'strip',
        'buffer',
        'Fingers along the tube: kink, bin it. Fiber fed, tube pressed on, 5 to 7 twists until tight; fiber out at the end.',
        [
          c.check(
            'no-kink',
            'Tube without a kink',
            3,
            commonPractice('a kinked tube goes in the bin'),
            'tube_kinked',
            { critical: true },
          ),
          c.count(
            'twists',
            'Twists of the tube',
            4,
            'twists',
            between('5', '7', commonPractice('5 to 7 until tight')),
            commonPractice('5 to 7 twists'),
          ),
          c.check(
            'fiber-out',
            'Fiber sticks out of the tube',
            5,
            house('none showing: the strip was short'),
            'strip_too_short',
            { critical: true },
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

export const FLAT_DROP: MethodSheet = flatDrop();
