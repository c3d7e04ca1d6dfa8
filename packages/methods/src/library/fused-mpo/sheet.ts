import type { MethodSheet } from '@clear-mark/core';
import { atMost, care, criteriaOf, step, stop } from '../../build.ts';
import { ARC, BLADES, CHEMICALS, DEFER, GLASS, HEAT, LIGHT } from '../../common/cautions.ts';
import { around, benchReady, clearUp, kit } from '../../common/prepare-steps.ts';
import { commonPractice, commonPracticeFromMemory, house, standardFromMemory } from '../../sources.ts';
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
        'Clamp about 400 mm (16 in) from the end, then the boot. Cord end at one end of the ribbonizing tool, two marks on the jacket at the other.',
        [
          c.measure(
            'clamp-distance',
            'Clamp from the end',
            2,
            'mm',
            around('400', '10'),
            commonPractice('about 400 mm, 16 in, from the end'),
            { sampled: true },
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
        'Jacket slit and split back to the marks. Marked part at the back arrows, halves and yarn to both sides; fibers in colour order, one by one; slit to the second arrows. Cleaned, a dab of glue from a wipe, cover off, out, jacket cut at the second mark. Spring unit on, then marked at 35 mm.',
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
            commonPractice('mark at 35 mm, at the holder’s tip'),
            { sampled: true },
          ),
        ],
      ),
      step(
        'strip',
        'Strip, clean, cleave',
        'strip',
        'glass',
        'Stripper pressed until green; strip, clean, cleave.',
        [
          c.check(
            'light-ready',
            'Waited for the light',
            3,
            commonPractice('pressed until green'),
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
            atMost('1.0', commonPracticeFromMemory('1 degree'), '0'),
            commonPracticeFromMemory('nobody says a limit'),
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
          c.grade(
            'joint',
            'Splice image, worst joint',
            6,
            JOINTS,
            house('no joint picture is said for this kind'),
            {
              critical: true,
            },
          ),
        ],
        [stop('No opening during the arc.')],
      ),
      step(
        'close',
        'Closed without letting go',
        'terminate',
        'connector',
        'Film off the clamp body, body in the tool, ribbon unclamped, kept taut, joint on the body, hinge shut. Film off the cover, on, pressed; out. Spring flush; housing cap off, dot to dot, snap, cap on. Boot up, yarn equally, boot screwed on, yarn trimmed.',
        [
          c.check(
            'taut',
            'Kept taut until closed',
            5,
            commonPractice('kept taut until the hinge is shut'),
            'let_go',
            { critical: true },
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
            { sampled: true },
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

export const FUSED_MPO: MethodSheet = fusedOn();
