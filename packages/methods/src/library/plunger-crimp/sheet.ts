import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step } from '../../build.ts';
import { LIVE_FIBER_CAUTIONS } from '../../common/cautions.ts';
import { cleaveLook, cleaving } from '../../common/cleave-steps.ts';
import { around, bareGlass, benchReady, jacket, markGap } from '../../common/prepare-steps.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';
import { afterLock, insert, THINGS } from '../prepolished-parts.ts';

function plunger(): MethodSheet {
  const c = criteriaOf('plunger-crimp');
  return method({
    name: 'plunger-crimp',
    title: 'Pre-polished ST-style on jacketed cord, plunger tool, two crimps',
    summary:
      'Locked by a quarter turn and the plunger; then the stem and the sleeve are crimped, each with its die. Both caps stay until the rear one comes off at insertion.',
    pieceKind: 'connector',
    strip: { jacketMm: 40, bufferMm: 29, cleaveMm: 7 },
    things: THINGS,
    cautions: LIVE_FIBER_CAUTIONS,
    steps: [
      benchReady(c),
      step(
        'kit',
        'Kit confirmed, connector in the tool',
        'strip',
        'connector',
        'Front cap missing: not used. Sleeve by the jacket’s gauge hole; the 900 µm boot is not needed. Tool opened to its click, release wire up; body in, push, quarter turn clockwise.',
        [
          c.check(
            'front-cap',
            'Front cap on; without it the connector is not used',
            4,
            commonPractice('its face may be damaged'),
            'cap_missing cap_off',
            {
              critical: true,
            },
          ),
          c.check(
            'kit',
            'Sleeve by the gauge, parts for this fiber',
            2,
            commonPractice('gauge hole of the card'),
            'wrong_connector wrong_boot',
            {
              trainee: true,
            },
          ),
        ],
      ),
      step(
        'parts-on',
        'Boot on the rear housing, both on the cord',
        'strip',
        'jacket',
        'Boot tight onto the rear housing, then both on the cord, narrow end first. The sleeve follows only after the jacket is off.',
        [
          c.check(
            'parts-on',
            'Boot and rear housing on, narrow end first',
            5,
            commonPractice('boot joins the rear housing before both go on'),
            'boot_forgotten boot_reversed wrong_order',
            {
              critical: true,
            },
          ),
        ],
      ),
      jacket(c, '40', '40 mm of jacket', 'Marked and off at 40 mm, edge square.', false),
      step(
        'sleeve',
        'Sleeve on, parked',
        'strip',
        'yarn',
        'Yarn off the buffer, then the sleeve, about 30 mm back from the jacket’s edge, holding the yarn (2.4 mm version: grooved end first). Slack fiber pushed in.',
        [
          c.check(
            'sleeve-on',
            'Sleeve on after the jacket, holding the yarn',
            3,
            commonPractice('yarn off the buffer, then the sleeve'),
            'sleeve_forgotten boot_reversed',
            {
              critical: true,
            },
          ),
          c.measure(
            'parked',
            'Sleeve back from the jacket’s edge',
            1,
            'mm',
            around('30', '5'),
            commonPractice('about 30 mm back'),
            { sampled: true },
          ),
        ],
      ),
      step(
        'marks',
        'Two marks on the buffer',
        'strip',
        'buffer',
        'One where the jacket ends (it shows slip), one 11 mm out.',
        [markGap(c, 'second-mark', 'Second mark from the jacket’s edge', '11')],
      ),
      ...bareGlass(c, {
        how: 'Off to the 11 mm mark, 5 mm a bite, jacket squeezed meanwhile.',
        bites: { least: '2', words: '5 mm bites' },
        length: { band: around('29', '1'), source: house('40 less 11: by arithmetic'), required: false },
        wipe: 'Folded wipe with alcohol. Card compared; the edge mark moved: readjust the buffer.',
      }),
      ...cleaving(c, { lowerMm: '6.5', upperMm: '7.5', targetMm: '7', words: '7 mm against the stopper' }),
      cleaveLook(
        c,
        'Hand scope: buffer in its groove, end at the stopper, towards something white. Bad: strip, clean, cleave again.',
        '1 degree',
        true,
      ),
      insert(
        c,
        {
          how: 'Rear cap off; fiber in until contact; from then on undisturbed.',
          label: 'In until contact, then undisturbed',
          faults: 'not_home forced_in disturbed',
          source: commonPractice('in until contact, then not disturbed'),
        },
        [
          c.measure(
            'stem-gap',
            'Gap between jacket and stem',
            4,
            'mm',
            { upper: { value: '2', exclusive: true, source: commonPractice('under 2 mm') }, target: '0' },
            commonPractice('jacket under 2 mm from the stem'),
            { critical: true },
          ),
        ],
      ),
      step(
        'plunge',
        'Cord clamped, plunger released',
        'terminate',
        'connector',
        'Cord (not fiber) slightly bowed and clamped. Plunger pressed, wire hooked on the connector, plunger slowly released.',
        [
          c.check(
            'clamped',
            'Cord clamped with its bow after the insertion',
            3,
            commonPractice('cord clamped, slightly bowed'),
            'cord_taut clamp_before',
            { sampled: true },
          ),
          c.check(
            'plunged',
            'Plunger pressed, wire hooked, slowly released',
            5,
            commonPractice('plunger with its release wire'),
            'half_stroke turned_early',
            {
              critical: true,
            },
          ),
        ],
      ),
      step(
        'crimps',
        'Two crimps',
        'terminate',
        'yarn',
        'Quarter turn out. Stem: first die, strongly. In again, quarter turn, an eighth back. Cord unclamped; yarn cut at the body, spread evenly; sleeve against the retaining ring, middle die.',
        [
          c.check(
            'first-die',
            'Stem crimped, first die',
            4,
            commonPractice('stem: first die, strongly'),
            'wrong_die',
          ),
          c.check(
            'eighth-turn',
            'Back in, quarter turn, an eighth back',
            2,
            commonPractice('an eighth back'),
            'turn_missing',
            { sampled: true },
          ),
          c.check(
            'sleeve-butted',
            'Yarn spread, sleeve against the ring, middle die',
            4,
            commonPractice('sleeve against the retaining ring'),
            'sleeve_not_butted yarn_uneven wrong_die pulled_off',
          ),
        ],
        [],
        'two-crimps',
      ),
      step(
        'boot',
        'Rear housing clicked in',
        'terminate',
        'connector',
        'Rear housing into the front until it clicks; off the tool; cleaned before the panel.',
        [
          c.check(
            'clicked',
            'Rear housing clicked into the front',
            3,
            commonPractice('rear housing into front: click'),
            'not_snapped',
            { sampled: true },
          ),
        ],
      ),
      ...afterLock(c),
    ],
  });
}

export const PLUNGER_CRIMP: MethodSheet = plunger();
