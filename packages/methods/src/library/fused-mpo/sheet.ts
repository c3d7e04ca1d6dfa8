import type { MethodSheet } from '@clear-mark/core';
import { atMost, care, criteriaOf, step, stop } from '../../build.ts';
import { ARC, BLADES, CHEMICALS, DEFER, GLASS, HEAT, LIGHT } from '../../common/cautions.ts';
import { around, benchReady, clearUp, kit } from '../../common/steps.ts';
import { commonPractice, house, standardFromMemory } from '../../sources.ts';
import { method } from '../method.ts';
import { JOINTS } from '../splicing-parts.ts';

function fusedOn(): MethodSheet {
  const c = criteriaOf('fused-mpo');
  return method({
    name: 'fused-mpo',
    title: 'Fused-on 12-fiber connector',
    summary:
      'A multi-fiber connector fused to the end of a 3 mm cordage: colours in order, thermal strip, cleave, fuse all twelve, close without letting go.',
    pieceKind: 'connector',
    things: ['bench', 'splicer', 'cleaver', 'scope'],
    cautions: [GLASS, LIGHT, ARC, HEAT, CHEMICALS, BLADES, DEFER],
    steps: [
      benchReady(c),
      kit(c, 'Body holder in the splicer’s right side; housing cap on.'),
      step(
        'clamp',
        'Clamp, boot, marks',
        'strip',
        'jacket',
        'Cable clamp about 400 mm (16 in) from the end, then the boot. Two marks from the ribbonizing tool.',
        [
          c.measure(
            'clamp-distance',
            'Clamp from the end',
            2,
            'mm',
            around('400', '10'),
            commonPractice('about 400 mm, 16 in, from the end'),
          ),
          c.check(
            'boot-on',
            'Clamp, then boot, before anything else',
            5,
            commonPractice('cable clamp, then boot'),
            'boot_forgotten clamp_after_boot boot_reversed',
            { critical: true },
          ),
        ],
      ),
      step(
        'order',
        'Jacket and colour order',
        'strip',
        'buffer',
        'Slit at the back arrows and peel; yarn to both sides; fibers in colour order one at a time; slit forward to the second arrows. Cleaned, a dab of glue drawn over, jacket cut at the second mark. Spring unit on.',
        [
          c.check(
            'order',
            'Fibers in colour order',
            5,
            standardFromMemory('TIA-598 colours'),
            'colours_swapped',
            { critical: true },
          ),
          c.check(
            'spring-on',
            'Spring unit on before the strip',
            4,
            commonPractice('spring unit on, then the mark'),
            'spring_forgotten',
            { critical: true },
          ),
          c.measure(
            'mark',
            'Mark from the end',
            2,
            'mm',
            around('35', '1'),
            commonPractice('mark at 35 mm, its tip at the holder’s tip'),
          ),
        ],
      ),
      step(
        'strip',
        'Strip, clean, cleave',
        'strip',
        'glass',
        'Thermal strip until the light is ready, clean, cleave.',
        [
          c.check(
            'light-ready',
            'Waited for the light',
            3,
            commonPractice('thermal strip until the light is ready'),
            'strip_early',
          ),
          c.check(
            'clean',
            'Cleaned, no residue',
            3,
            commonPractice('fluid or 95 % alcohol'),
            'coating_left not_cleaned',
          ),
          c.measure(
            'worst-angle',
            'Worst cleave angle',
            4,
            'deg',
            atMost('1.0', commonPractice('1 degree or less'), '0'),
            commonPractice('1 degree or less'),
            {
              skill: 'cleave',
              critical: true,
              uncertainty: { value: '0.1', source: house('the splicer’s reading') },
            },
          ),
        ],
        [care('The stripper is hot.')],
      ),
      step(
        'fuse',
        'All twelve fused',
        'splice',
        'glass',
        'Fuse; look at every joint.',
        [
          c.grade('joint', 'Worst joint', 6, JOINTS, commonPractice('no bubble, no line, no neck or bulge'), {
            critical: true,
          }),
        ],
        [stop('No opening during the arc.')],
      ),
      step(
        'close',
        'Closed without letting go',
        'terminate',
        'connector',
        'Protective films off clamp body and cover; ribbon holder unclamped; keep taut, close the mechanical protection, cover, press. Spring flush, housing cap off, white dots aligned, snap, cap on, boot up.',
        [
          c.check(
            'taut',
            'Kept taut until closed',
            5,
            commonPractice('keep taut, close the mechanical protection'),
            'let_go',
          ),
          c.check(
            'dots',
            'Spring flush, white dots aligned, snapped',
            4,
            commonPractice('white dots aligned, snap'),
            'dots_off spring_proud',
          ),
          c.check(
            'yarn',
            'Yarn equally to both sides, boot screwed on, trimmed',
            3,
            commonPractice('yarn equally to both sides'),
            'yarn_uneven yarn_not_trimmed',
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

export const FUSED_MPO: MethodSheet = fusedOn();
