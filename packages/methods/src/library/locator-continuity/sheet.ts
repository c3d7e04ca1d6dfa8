import type { MethodSheet } from '@clear-mark/core';
import { criteriaOf, step, stop } from '../../build.ts';
import { DEFER, LIGHT } from '../../common/cautions.ts';
import { commonPractice, house } from '../../sources.ts';
import { method } from '../method.ts';

function continuity(): MethodSheet {
  const c = criteriaOf('locator-continuity');
  return method({
    name: 'locator-continuity',
    title: 'Continuity by fault locator',
    summary: 'Red light first: at the right port and strong, no broken fiber; then loss.',
    pieceKind: 'link',
    things: ['bench', 'instrument'],
    cautions: [LIGHT, DEFER],
    steps: [
      step(
        'locator',
        'Locator on',
        'test',
        'instruments',
        'Straight into the port; the far end is watched from the side, by a second person.',
        [
          c.check(
            'no-look',
            'Nobody looked into a lit connector',
            4,
            commonPractice('the red fault locator is a laser as well'),
            'looked_into_light',
            { stop: true },
          ),
          c.check(
            'polish',
            'Cord’s polish matches the port',
            3,
            commonPractice('flat or angled'),
            'polish_mismatch',
            { sampled: true },
          ),
        ],
        [stop('The fault locator is a laser: look from the side, cap unused ports.')],
      ),
      step(
        'walk',
        'Ports walked',
        'test',
        'instruments',
        'Usually two people, port by port, talking. Walk them in order and note where each comes out.',
        [
          c.map(
            'port-map',
            'Where each port came out',
            6,
            12,
            'A',
            commonPractice('walk the ports 1 to 12 and note where each comes out'),
            { critical: true, faults: ['wrong_port'] },
          ),
          c.check(
            'light-strong',
            'Light strong at every port',
            3,
            commonPractice('light at the right port and strong, no broken fiber'),
            'light_weak',
          ),
          c.check(
            'broken-found',
            'Broken fiber found and named',
            4,
            commonPractice('dark at the far end'),
            'broken_missed',
            { sampled: true },
          ),
          c.check('record', 'Map written down', 3, house('the map is kept'), 'record_incomplete'),
        ],
      ),
      step('capped', 'Ports capped', 'test', 'connector', 'Locator off, unused ports capped.', [
        c.check('capped', 'Unused ports capped', 2, house('cap unused ports'), 'cap_off', { sampled: true }),
      ]),
    ],
  });
}

export const LOCATOR_CONTINUITY: MethodSheet = continuity();
