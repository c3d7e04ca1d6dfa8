import type { MethodSheet } from '@clear-mark/core';
import { atMost, between, care, criteriaOf, level, step, stop } from '../build.ts';
import { ARC, BLADES, CHEMICALS, DEFER, GLASS, HEAT, LIGHT } from '../common/cautions.ts';
import {
  around,
  bareGlass,
  benchReady,
  CLEAVE_FACES,
  cleaving,
  clearUp,
  kit,
  partsOn,
} from '../common/steps.ts';
import { commonPractice, commonPracticeFromMemory, house, standardFromMemory } from '../sources.ts';
import { method } from './method.ts';

const CAUTIONS = [GLASS, LIGHT, ARC, CHEMICALS, BLADES, DEFER];
const JOINTS = [
  level('clean', 'Clean, cores in line', 'pass', 6, 'joint-clean'),
  level('line', 'Faint line', 'marginal_pass', 4, 'joint-line'),
  level('offset', 'Offset', 'fail', 0, 'joint-offset'),
  level('bubble', 'Bubble', 'fail', 0, 'joint-bubble'),
  level('neck', 'Neck or bulge', 'fail', 0, 'joint-neck'),
];

function singleFusion(): MethodSheet {
  const c = criteriaOf('single-fusion');
  const angle = (name: string, label: string) =>
    c.measure(
      name,
      label,
      4,
      'deg',
      {
        upper: { value: '1.0', source: commonPractice('1 degree or less each side; 0.5 is good work') },
        target: '0',
      },
      commonPractice('1 degree or less each side'),
      {
        skill: 'cleave',
        critical: true,
        uncertainty: { value: '0.1', source: house('the splicer’s reading of the angle') },
      },
    );
  return method({
    name: 'single-fusion',
    title: 'Single fusion splice, tight-buffered single-mode',
    summary: 'Sleeve first, both sides stripped, cleaned and cleaved, fused, proof-tested and protected.',
    pieceKind: 'splice',
    things: ['bench', 'splicer', 'cleaver'],
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      partsOn(
        c,
        'Heat-shrink sleeve on one fiber',
        'Heat-shrink sleeve on one fiber first: it cannot go on afterwards.',
      ),
      step(
        'splicer',
        'Splicer ready',
        'splice',
        'instruments',
        'Start-up finished, splice program for the fiber (an automatic mode recognises it), heater program set to the sleeve’s length: 40, 45 or 60 mm.',
        [
          c.check(
            'program',
            'Splice program for this fiber',
            3,
            commonPractice('single-mode, or the automatic mode'),
            'wrong_program',
          ),
          c.check(
            'heater',
            'Heater program set to the sleeve’s length',
            4,
            commonPractice('a machine left on its usual 45 or 60 with a 40 mm sleeve is the classic slip'),
            'heater_wrong',
          ),
        ],
      ),
      ...bareGlass(c, null),
      ...cleaving(c, {
        lowerMm: '12.5',
        upperMm: '13.5',
        targetMm: '13',
        lengthWords: 'buffer edge at 13 mm',
        angleDeg: '1.0',
        inspected: false,
      }),
      step(
        'lay',
        'Both sides laid in',
        'splice',
        'glass',
        'Tip close to the electrodes but not past them, touching nothing. Clamp. Wind cover down.',
        [
          c.check(
            'laid',
            'Tips close to the electrodes, touching nothing',
            4,
            commonPractice('close to the electrodes but not past them'),
            'tip_past tip_touched',
          ),
          angle('angle-left', 'Cleave angle, left'),
          angle('angle-right', 'Cleave angle, right'),
          c.check(
            'last-look',
            'Gap picture looked at before firing',
            3,
            commonPractice('last chance to reject; a bad angle is cleaved again, not spliced'),
            'fired_unseen',
          ),
        ],
      ),
      step(
        'fire',
        'Fired',
        'splice',
        'glass',
        'A short pre-fuse burns dust off, then the fibers are pushed together. No bubble, line, neck or bulge; cores in line.',
        [
          c.grade(
            'joint',
            'Picture of the joint',
            6,
            JOINTS,
            commonPractice('no bubble, no line, no neck or bulge, cores in line'),
            { critical: true },
          ),
          c.measure(
            'estimate',
            'Estimated loss',
            6,
            'dB',
            {
              upper: {
                value: '0.10',
                exclusive: true,
                source: house('0.05 or less is good; 0.10 and the trainee redoes it'),
              },
              target: '0',
            },
            house('an estimate from the picture, not a measurement'),
            { critical: true },
          ),
          c.count(
            're-arcs',
            'Re-arcs',
            2,
            're-arcs',
            atMost('1', house('none or one')),
            house('none or one'),
          ),
        ],
        [stop('No opening during the arc.')],
      ),
      step('proof', 'Proof test', 'splice', 'glass', 'Wait for it before opening the holders.', [
        c.check(
          'proof',
          'Proof test waited for and held',
          4,
          commonPracticeFromMemory('about 2 N'),
          'proof_skipped broke_in_proof',
        ),
      ]),
      step(
        'protect',
        'Protected',
        'splice',
        'glass',
        'Sleeve slid until the joint is in its middle, in the heater to the end of its program, then to the cooling tray.',
        [
          c.measure(
            'overlap',
            'Least overlap of the sleeve over the buffer',
            4,
            'mm',
            {
              lower: {
                value: '7',
                source: house(
                  'with 13 mm bare each side and a 40 mm sleeve 7 mm is what there is; 10 mm with a 60 mm sleeve',
                ),
              },
            },
            house('overlaps the buffer on both sides'),
          ),
          c.check(
            'centred',
            'Joint in the middle, no bubble in the sleeve',
            3,
            house('joint centred, no bubble'),
            'sleeve_off sleeve_bubble',
          ),
          c.check(
            'heater-end',
            'Heater run to its end, cooled',
            2,
            commonPractice('its light goes out, then to the cooling tray'),
            'heater_cut_short',
          ),
        ],
        [care('The sleeve is hot: let it cool.')],
      ),
      step(
        'dress',
        'Dressed and noted',
        'splice',
        'bench',
        'In the tray with safe bends; fiber, loss and maker noted.',
        [
          c.check('dressed', 'In the tray, bends safe', 3, commonPractice('safe bends'), 'bend_tight'),
          c.check(
            'record',
            'Fiber, loss and maker noted',
            2,
            commonPractice('note the fiber, the loss and who made it'),
            'record_incomplete',
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

function ribbonSplice(): MethodSheet {
  const c = criteriaOf('ribbon-splice');
  return method({
    name: 'ribbon-splice',
    title: 'Ribbon splice, 12 fibers',
    summary:
      'Twelve fibers in colour order, thermally stripped, cleaved and fused together. The worst fiber counts.',
    pieceKind: 'splice',
    things: ['bench', 'splicer', 'cleaver'],
    cautions: [GLASS, LIGHT, ARC, HEAT, CHEMICALS, BLADES, DEFER],
    steps: [
      benchReady(c),
      partsOn(c, 'Ribbon sleeve on one side', 'Heat-shrink sleeve for ribbon on one side first.'),
      step(
        'order',
        'Colour order',
        'strip',
        'buffer',
        'Blue, orange, green, brown, slate, white, red, black, yellow, violet, rose, aqua.',
        [
          c.check(
            'order',
            'Both ribbons in colour order, same way up',
            5,
            standardFromMemory('TIA-598 colours'),
            'colours_swapped ribbon_flipped',
            { critical: true },
          ),
        ],
      ),
      step(
        'strip',
        'Thermal strip',
        'strip',
        'buffer',
        'Hold until the light is ready, one pull, residue wiped off.',
        [
          c.check(
            'light-ready',
            'Waited for the light, one pull',
            3,
            commonPractice('thermal strip until the light is ready'),
            'strip_early',
          ),
          c.check(
            'residue',
            'No residue on any fiber',
            4,
            commonPractice('coating residue keeps a fiber off its groove'),
            'coating_left',
            { critical: true },
          ),
        ],
        [care('The stripper is hot.')],
      ),
      step('cleave', 'All cleaved at once', 'cleave', 'glass', 'Holder seated, one stroke.', [
        c.check(
          'seated',
          'Holder seated, one stroke',
          3,
          commonPractice('by ribbon holder and cleaver'),
          'spacer_gap two_strokes',
        ),
        c.measure(
          'worst-angle',
          'Worst cleave angle of the twelve',
          6,
          'deg',
          { upper: { value: '1.0', source: commonPractice('1 degree or less each side') }, target: '0' },
          commonPractice('1 degree or less each side'),
          { critical: true, uncertainty: { value: '0.1', source: house('the splicer’s reading') } },
        ),
        c.grade(
          'worst-face',
          'Worst face',
          4,
          CLEAVE_FACES.map((l) => ({ ...l, points: Math.min(4, l.points) })),
          commonPractice('mirror: no hackle, lip, chip, spiral or crack'),
        ),
      ]),
      step(
        'fire',
        'Fused',
        'splice',
        'glass',
        'Cover down, gap picture of all twelve looked at, fired.',
        [
          c.grade('joint', 'Worst joint', 6, JOINTS, commonPractice('no bubble, no line, no neck or bulge'), {
            critical: true,
          }),
          c.measure(
            'worst-estimate',
            'Worst estimate',
            6,
            'dB',
            atMost('0.10', house('0.10 dB and the trainee redoes it'), '0'),
            house('the worst fiber counts'),
            { critical: true },
          ),
        ],
        [stop('No opening during the arc.')],
      ),
      step(
        'protect',
        'Proof-tested and protected',
        'splice',
        'glass',
        'Proof test, sleeve centred, heater program for ribbon sleeves.',
        [
          c.check(
            'proof',
            'Proof test held',
            3,
            commonPractice('wait for it before opening the holders'),
            'proof_skipped broke_in_proof',
          ),
          c.check(
            'centred',
            'Joint in the middle of the sleeve',
            3,
            house('joint centred'),
            'sleeve_off sleeve_bubble',
          ),
        ],
      ),
      clearUp(c),
    ],
  });
}

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

function duplex(): MethodSheet {
  const c = criteriaOf('duplex-assembly');
  return method({
    name: 'duplex-assembly',
    title: 'Duplex assembly and polarity',
    summary: 'Two finished connectors into their housings and a clip: the A and B marks are the polarity.',
    pieceKind: 'cord',
    things: ['bench'],
    cautions: [LIGHT, DEFER],
    steps: [
      step(
        'housing',
        'Housings on',
        'terminate',
        'connector',
        'Chamfered corners to the key, pushed by the boot until it snaps. Date code to the shroud’s key where there is one.',
        [
          c.check(
            'chamfer',
            'Chamfered corners to the key, snapped',
            4,
            commonPractice('chamfered corners to the key'),
            'housing_turned not_snapped',
          ),
          c.check(
            'not-pulled',
            'Pushed by the boot, fiber not pulled',
            3,
            commonPractice('push by the boot until it snaps'),
            'fiber_pulled',
          ),
        ],
      ),
      step(
        'clip',
        'Into the clip',
        'terminate',
        'connector',
        'Mind the A and B marks; squeeze the front or use a small screwdriver to part them.',
        [
          c.check(
            'marks',
            'A and B as the cord’s polarity asks',
            5,
            commonPractice('the marks are the polarity'),
            'polarity_crossed',
            { critical: true },
          ),
        ],
      ),
      step(
        'walk',
        'Polarity walked',
        'test',
        'instruments',
        'Red light in at A, out at B of the far end, and back.',
        [
          c.check(
            'walk',
            'Light came out where it should, both ways',
            4,
            commonPractice('test before and after installation'),
            'not_walked',
            { critical: true },
          ),
          c.count(
            'ports-walked',
            'Fibers walked',
            1,
            'fibers',
            between('2', '2', commonPractice('both fibers')),
            commonPractice('both fibers'),
          ),
        ],
        [stop('The fault locator is a laser: look from the side.')],
      ),
    ],
  });
}

export const SPLICING: readonly MethodSheet[] = [singleFusion(), ribbonSplice(), fusedOn(), duplex()];
