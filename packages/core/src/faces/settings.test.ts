import { expect, it } from 'vitest';
import { FACE_SETTINGS } from './settings.ts';
import { CASES } from './settings-cases-for-tests.ts';
import { raised, THRESHOLDS } from './settings-for-tests.ts';

it('every case is of a threshold that there is', () => {
  expect(Object.keys(CASES).filter((name) => !THRESHOLDS.includes(name))).toEqual([]);
});

it.each(Object.entries(CASES))('%s decides: raised by a third, something else is found', (name, find) => {
  expect(find(raised(name))).not.toBe(find(FACE_SETTINGS));
});

// What is found by the shipped settings, so that a changed one is seen.
it('the shipped settings find what they found', () => {
  expect(Object.fromEntries(Object.entries(CASES).map(([name, find]) => [name, find(FACE_SETTINGS)])))
    .toMatchInlineSnapshot(`
      {
        "ahead.alike": 2,
        "ahead.asideUm": 2,
        "ahead.backUm": 2,
        "ahead.bends": 2,
        "ahead.reachUm": 2,
        "ahead.roundFrom": 2,
        "ahead.roundReachUm": 2,
        "ahead.thinArea": 2,
        "ahead.touchUm": 2,
        "ahead.turnedDeg": 2,
        "cladding.alikeInGrain": true,
        "cladding.grainTimes": true,
        "cladding.leastAlike": true,
        "cladding.leastSeen": "found",
        "cladding.mostPatchy": false,
        "cladding.mostRings": false,
        "cladding.patchyFerrule": false,
        "compare.apartUm": 0,
        "core.between50And62Um": "multimode_62",
        "core.betweenSingleAnd50Um": "multimode_50",
        "features.bendSeenFromUm": "defect",
        "features.faintPx": "scratch 3.0",
        "features.leastBendUm": "scratch",
        "features.pointContrast": "defect 0.0",
        "features.rimPx": "defect 2.7",
        "features.rimUm": "scratch",
        "features.thickPx": "scratch 15.6, defect 101.1",
        "line.leastHeight": true,
        "lines.shadowHeight": false,
        "merge.alongDeg": 2,
        "merge.apartPx": 2,
        "merge.asidePx": 2,
        "merge.bendsDegPerPx": 2,
        "merge.besidePx": 2,
        "merge.beyondPx": 2,
        "merge.shortPx": 2,
        "merge.tailPx": 1,
        "merge.turnedDeg": 2,
        "noise.nearCentrePx": "17.5",
        "peel.beyondEndPx": 1634,
        "peel.goesOnAtEnds": "20.5",
        "peel.toRimPx": 2069,
        "pieces.asidePx": 2,
        "pieces.gapPx": 2,
        "spots.broadPx": "",
        "spots.closePx": 2,
        "spots.leastLevels": 1,
        "spots.leastPx": "4",
        "spots.mostPx": 60001,
        "spots.seedAtRim": "22",
        "spots.thinPx": 2,
      }
    `);
});
