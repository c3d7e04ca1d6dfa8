import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step, stop } from '../../build.ts';
import { bareGlass, benchReady, cleaving, kit, partsOn } from '../../common/steps.ts';
import { commonPractice } from '../../sources.ts';
import { method } from '../method.ts';
import { THINGS, CAUTIONS, afterLock, jacket, bow } from '../prepolished-parts.ts';

interface Wedge {
  readonly name: string;
  readonly connector: string;
  readonly locator: boolean;
  readonly jacketMm: string;
  readonly bufferMm: string;
  readonly lowerMm: string;
  readonly upperMm: string;
  readonly targetMm: string;
}

const WEDGES: readonly Wedge[] = [
  {
    name: 'lc-wedge',
    connector: 'LC',
    locator: false,
    jacketMm: '70',
    bufferMm: '40',
    lowerMm: '10',
    upperMm: '11',
    targetMm: '10.5',
  },
  {
    name: 'st-wedge-locator',
    connector: 'ST-style',
    locator: true,
    jacketMm: '65',
    bufferMm: '35',
    lowerMm: '10',
    upperMm: '11',
    targetMm: '10.5',
  },
  {
    name: 'st-wedge',
    connector: 'ST-style',
    locator: false,
    jacketMm: '65',
    bufferMm: '35',
    lowerMm: '10',
    upperMm: '11',
    targetMm: '10.5',
  },
];

function wedge(w: Wedge): MethodSheet {
  const c = criteriaOf(w.name);
  const proof = w.locator
    ? c.check(
        'glow-dims',
        'Glow dimmed at the window',
        5,
        commonPractice('light at the window means the faces do not meet'),
        'glow_stayed locator_off',
        { critical: true },
      )
    : c.check(
        'home',
        'Bow stood until the release, mark at the lead-in',
        5,
        commonPractice('without a locator the bow and the mark are the proof, and the loss decides'),
        'bow_let_go line_off',
        { critical: true },
      );
  return method({
    name: w.name,
    title: `Pre-polished ${w.connector}, wedge released, ${w.locator ? 'with' : 'without'} fault locator`,
    summary: `A single-mode ${w.connector} on a 2 or 3 mm cord. The wedge is in fully, the bow stands, both sides are squeezed.`,
    pieceKind: 'connector',
    strip: { jacketMm: Number(w.jacketMm), bufferMm: Number(w.bufferMm), cleaveMm: Number(w.targetMm) },
    things: THINGS,
    cautions: CAUTIONS,
    steps: [
      benchReady(c),
      kit(
        c,
        `Single-mode ${w.connector}, front cap on, wedge unit complete. A 250 µm fiber takes its protective tube.`,
      ),
      partsOn(
        c,
        'Cable clamp, then boot, narrow end first',
        'Cable clamp before the boot, then the boot, narrow end first.',
      ),
      jacket(c, w.jacketMm, `${w.jacketMm} mm for a wedge-released ${w.connector}`),
      ...bareGlass(c, {
        mm: w.bufferMm,
        tolerance: '1',
        words: `${w.bufferMm} mm for a wedge-released ${w.connector}`,
      }),
      ...cleaving(c, {
        lowerMm: w.lowerMm,
        upperMm: w.upperMm,
        targetMm: w.targetMm,
        lengthWords: '10 to 11 mm for a wedge-released connector',
        angleDeg: '1.0',
        inspected: true,
      }),
      bow(
        c,
        'Wedge fully in first: squeeze top and bottom until it clicks. Then the fiber in to the stub, slight bow, kept pushed.',
      ),
      step(
        'release',
        'Wedge released',
        'terminate',
        'connector',
        w.locator
          ? 'Both sides squeezed after the bow has formed; the glow at the window dims. Then locator off and cap on.'
          : 'Both sides squeezed after the bow has formed.',
        [
          c.check(
            'wedge-in',
            'Wedge was fully in before the fiber',
            3,
            commonPractice('squeeze top and bottom, click'),
            'wedge_not_seated',
          ),
          c.check(
            'both-sides',
            'Both sides squeezed with the bow standing',
            4,
            commonPractice('squeeze after the bow has formed'),
            'released_before_bow one_side_only',
          ),
          proof,
        ],
        w.locator ? [stop('The fault locator is a laser: never look into the connector.')] : [],
        'squeeze',
      ),
      step(
        'secure',
        'Cord secured, tool off',
        'terminate',
        'yarn',
        `Cable out of the grip, boot past it, cable straightened and back; yarn halved and pulled taut with the buffer straight; boot screwed on; wedge unit off, yarn trimmed, clamp off.${w.connector === 'LC' ? '' : ' The housing goes on last.'}`,
        [
          c.check(
            'yarn',
            'Yarn halved, taut, held by the boot',
            4,
            commonPractice('the boot fixes the yarn'),
            'yarn_uneven yarn_slack yarn_missed',
          ),
          c.check(
            'finish',
            'Wedge unit and clamp off, yarn trimmed, cap on',
            3,
            commonPractice('finished as the instructions show'),
            'yarn_not_trimmed cap_off clamp_left_on',
          ),
        ],
      ),
      ...afterLock(c),
    ],
  });
}

export const WEDGE: readonly MethodSheet[] = WEDGES.map(wedge);
