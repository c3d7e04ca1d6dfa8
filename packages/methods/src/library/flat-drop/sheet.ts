import type { MethodSheet } from '@clear-mark/core';
import { between, care, criteriaOf, step } from '../../build.ts';
import { BLADES, CABLE, DEFER, GLASS } from '../../common/cautions.ts';
import { around, benchReady, clearUp } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';

function flatDrop(): MethodSheet {
  const c = criteriaOf('flat-drop');
  return method({
    name: 'flat-drop',
    title: 'Flat drop cable into a furcation tube',
    summary:
      'Both strength members bared and peeled away straight, the cable slit along its grooves, the fiber fed into a furcation tube and the tube twisted on.',
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
        'First on its edge in slot one, closed snugly: bares the outer sides of both members. Then flat in slot two, about 80 mm, flip, the other face.',
        [
          c.measure(
            'strip-length',
            'Strip length',
            4,
            'mm',
            around('80', '10'),
            commonPractice('about 80 mm, a little more or less is fine'),
          ),
          c.check(
            'both-faces',
            'Edge first, then both faces',
            3,
            commonPractice('slot one, slot two, flip'),
            'slots_swapped one_face_only',
          ),
        ],
      ),
      step(
        'members',
        'Strength members peeled away',
        'strip',
        'jacket',
        'All along, without bending them, then cut off.',
        [
          c.check(
            'not-bent',
            'Peeled straight, not snapped',
            4,
            commonPractice('bent they snap and are then hard to remove'),
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
        'Leftover cut away. Slit where the members lay, never along the printed face; pull the halves apart, free the fiber, trim the halves short.',
        [
          c.check(
            'grooves',
            'Slit in both grooves, not along the print',
            4,
            commonPractice('along the two grooves where the members lay'),
            'slit_at_print',
          ),
          c.check(
            'fiber-untouched',
            'Fiber not touched by the blade',
            4,
            commonPractice('trim the halves without touching the fiber'),
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
        'Run the fingers along the tube: any kink and it goes in the bin. Feed the fiber, press the tube’s end on, twist until tight.',
        [
          c.check(
            'no-kink',
            'Tube without a kink',
            3,
            commonPractice('past a kink the fiber will not go'),
            'tube_kinked',
          ),
          c.count(
            'twists',
            'Twists of the tube',
            4,
            'twists',
            between('5', '7', commonPractice('5 to 7 twists until tight')),
            commonPractice('5 to 7 twists'),
          ),
          c.check(
            'fiber-out',
            'Fiber sticks out of the tube',
            5,
            commonPractice('none out: the strip was too short'),
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
