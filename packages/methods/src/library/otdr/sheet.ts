import type { MethodSheet } from '@clear-mark/core';
import { atLeast, atMost, criteriaOf, step, stop } from '../../build.ts';
import { CHEMICALS, DEFER, LIGHT } from '../../common/cautions.ts';
import { commonPractice, commonPracticeFromMemory, house } from '../../sources.ts';
import { method } from '../method.ts';

/** A link tested from one end, or from both, by a trace. */
function otdrLink(): MethodSheet {
  const c = criteriaOf('otdr-link');
  return method({
    name: 'otdr-link',
    title: 'OTDR test of a link',
    summary:
      'Launch cord, link, receive cord: one trace, its events marked, the loss between both cords, judged.',
    pieceKind: 'link',
    things: ['bench', 'scope', 'instrument', 'cord'],
    cautions: [LIGHT, CHEMICALS, DEFER],
    steps: [
      step(
        'ends',
        'Every end inspected and cleaned',
        'inspect',
        'connector',
        'Inspect, clean, inspect again: both cords, both ends of the link, and the port of the OTDR.',
        [
          c.check(
            'ends-clean',
            'Every end inspected, cleaned if needed',
            4,
            commonPractice('inspect and clean every end before it is mated'),
            'mated_unseen',
            { critical: true },
          ),
        ],
        [stop('OTDR off while its port is looked at: no microscope on a fiber that could be lit.')],
      ),
      step(
        'set-up',
        'Cords and settings',
        'test',
        'instruments',
        'Launch cord longer than the link, receive cord at the far end. Range about twice the whole, a pulse as short as the trace allows, the index of the cable.',
        [
          c.check(
            'launch-longer',
            'Launch cord longer than the link',
            5,
            house('a launch cord that is too short is decisive: its echoes fall into the link'),
            'launch_too_short',
            { critical: true },
          ),
          c.check(
            'receive-cord',
            'Receive cord at the far end',
            4,
            commonPractice('without it the far connector is not measured'),
            'receive_cord_missing',
          ),
          c.check(
            'range',
            'Range about twice the whole length',
            2,
            commonPracticeFromMemory('one and a half to two times cords and link'),
            'range_wrong',
          ),
          c.check(
            'pulse',
            'Pulse fits: short links a short one',
            3,
            commonPracticeFromMemory('a short pulse parts near events, a long one sees further'),
            'pulse_wrong',
          ),
          c.check(
            'averaging',
            'Averaged until the line is quiet',
            2,
            commonPracticeFromMemory('more averages take the noise down by their root'),
            'averaging_short',
            { sampled: true },
          ),
          c.check(
            'index',
            'Group index of the cable entered',
            2,
            commonPracticeFromMemory('distances follow the index'),
            'index_wrong',
          ),
        ],
        [stop('An OTDR is a laser: cap what is not used, and look at no end while it measures.')],
      ),
      step(
        'trace',
        'Trace read',
        'test',
        'instruments',
        'One marker before the first connector, one after the link. One line on the launch cord, one on the receive cord; the loss is between them. Then each event.',
        [
          c.check(
            'markers',
            'Markers and lines in the right place',
            5,
            house('wrong markers are decisive'),
            'markers_wrong',
            { critical: true },
          ),
          c.measure(
            'loss-apart',
            'Loss of the link, apart from the one computed',
            5,
            'dB',
            atMost('0.05', house('two readings of one trace')),
            house('two readings of one trace agree within 0.05 dB'),
            { trainee: true, required: true },
          ),
          c.measure(
            'events-found',
            'Share of the events found',
            6,
            '1',
            atLeast('0.9', house('nine of ten events are found')),
            house('nine of ten events are found'),
            { trainee: true, required: true },
          ),
          c.count(
            'events-invented',
            'Events marked where nothing is',
            3,
            'events',
            atMost('0', house('what is marked is there')),
            house('what is marked is there'),
            { trainee: true, required: true, faults: ['event_invented'] },
          ),
          c.count(
            'ghosts-called',
            'Ghosts taken for events',
            3,
            'ghosts',
            atMost('0', commonPractice('no loss, at repeat distances')),
            commonPractice('no loss, at repeat distances of stronger reflections'),
            { trainee: true, required: true, faults: ['ghost_called'] },
          ),
          c.check(
            'connectors-read',
            'High loss and reflectance of connectors named',
            3,
            commonPractice('each connector is looked at for loss and for reflectance'),
            'event_missed',
            { sampled: true },
          ),
          c.check(
            'both-ways',
            'Read from both ends, the mean taken',
            3,
            commonPractice('a gain from one side is no gain: the mean of both tells'),
            'gain_believed',
            { sampled: true },
          ),
          c.check(
            'wavelengths',
            'Wavelengths compared: a bend grows',
            3,
            commonPractice('a bend loses more at the longer wavelength'),
            'bend_unseen',
            { sampled: true },
          ),
        ],
      ),
      step(
        'judge',
        'Judged and recorded',
        'test',
        'instruments',
        'Each event and the whole against the limits of this link; then the file, under the fiber’s number.',
        [
          c.check(
            'verdict',
            'Trainee’s verdict agrees with the limits',
            4,
            commonPractice('event by event and the whole, against the limits of this link'),
            'wrong_conclusion',
          ),
          c.check(
            'record',
            'Record complete',
            3,
            commonPractice('fiber, direction, wavelength, pulse, cords, and the file itself'),
            'record_incomplete',
          ),
        ],
      ),
    ],
  });
}

/** A series of traces read without feedback; the figures are computed from the marks. */
function readATrace(): MethodSheet {
  const c = criteriaOf('read-a-trace');
  const mostlyRight = house('what a reader of traces gets right');
  return method({
    name: 'read-a-trace',
    title: 'Read a trace',
    summary: 'Traces shown one after another: events marked, ghosts left alone, each called pass or fail.',
    pieceKind: 'link',
    things: [],
    cautions: [LIGHT, DEFER],
    steps: [
      step(
        'series',
        'The series read',
        'test',
        'instruments',
        'An event that is missed stays in the plant; a ghost that is called sends somebody to open a sound joint.',
        [
          c.measure('found', 'Share of the events found', 6, '1', atLeast('0.9', mostlyRight), mostlyRight, {
            critical: true,
            trainee: true,
            required: true,
          }),
          c.measure(
            'named',
            'Of these, called what they are',
            3,
            '1',
            atLeast('0.8', mostlyRight),
            mostlyRight,
            { trainee: true },
          ),
          c.measure(
            'invented',
            'Marks where nothing is, a trace',
            3,
            '1',
            atMost('0.34', house('one in three traces')),
            house('one in three traces'),
            { trainee: true, required: true, faults: ['event_invented'] },
          ),
          c.measure(
            'ghosts',
            'Ghosts taken for events',
            3,
            '1',
            atMost('0', commonPractice('no loss, at repeat distances')),
            commonPractice('no loss, at repeat distances of stronger reflections'),
            { trainee: true, required: true, faults: ['ghost_called'] },
          ),
          c.measure('ends', 'Ends of fibers found', 3, '1', atLeast('0.9', mostlyRight), mostlyRight, {
            trainee: true,
          }),
          c.measure('verdicts', 'Share of right verdicts', 6, '1', atLeast('0.8', mostlyRight), mostlyRight, {
            critical: true,
            trainee: true,
            required: true,
          }),
        ],
      ),
    ],
  });
}

export const OTDR_LINK: MethodSheet = otdrLink();
export const READ_A_TRACE: MethodSheet = readATrace();
