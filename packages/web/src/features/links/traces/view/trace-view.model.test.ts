import { analyseTrace, lossByMarkers, traceGroups, traceOutline } from '@clear-mark/core';
import { rngFrom, simulatedTrace, USUAL_METER } from '@clear-mark/sim';
import { describe, expect, it } from 'vitest';
import { differenceWords, eventRows } from './event-rows.ts';
import {
  levelRange,
  markersAround,
  markersIn,
  movedMarker,
  outlinePath,
  placeWords,
} from './trace-view.model.ts';

const trace = simulatedTrace(
  {
    events: [
      { positionM: 500, lossDb: 0.3, reflectanceDb: -50 },
      { positionM: 900, lossDb: 0.2, reflectanceDb: null },
    ],
    endM: 1400,
    endReflectanceDb: -20,
    portReflectanceDb: -50,
    dbPerKm: 0.33,
    backscatterSteps: [],
  },
  { ...USUAL_METER, points: 4000 },
  rngFrom(2),
);
const analysis = analyseTrace(trace);
const markers = markersIn(0, 1000);

describe('the drawing of a trace', () => {
  it('goes from the highest to the lowest level of each column, and breaks where there is none', () => {
    const outline = {
      fromM: 0,
      columnM: 1,
      lows: Float64Array.of(-2, -1, Number.NaN, -3),
      highs: Float64Array.of(-1, -1, Number.NaN, -3),
    };
    expect(outlinePath(outline, 10, 2, (db) => -db * 10)).toBe('M11.0 10.0V20.0L13.0 10.0M17.0 30.0');
  });
  it('is filled by the lines: neither by noise nor by the tops of reflections', () => {
    const outline = traceOutline(trace, traceGroups(trace), 0, 2000, 800);
    const [low, high] = levelRange([outline], [analysis]);
    const { level } = analysis.lines[0]!.line;
    expect(high).toBeLessThan(level + 10);
    expect(low).toBeGreaterThan(level - 8);
    // Without lines that are known the noise is told by the tops of its columns.
    expect(levelRange([outline], [null])[0]).toBeGreaterThan(-50);
    expect(levelRange([traceOutline(trace, traceGroups(trace), 5000, 6000, 10)], [null])).toEqual([-1, 0]);
  });
  it('says places in the unit of the person', () => {
    expect([placeWords(30.48, 'm'), placeWords(30.48, 'ft')]).toEqual(['30.5 m', '100.0 ft']);
  });
});

describe('markers', () => {
  it('a window goes along with its marker, and its ends by themselves', () => {
    const moved = movedMarker(markers, 'a', markers.aM + 10);
    expect(moved.before).toEqual({ fromM: markers.before.fromM + 10, toM: markers.before.toM + 10 });
    expect(moved.after).toEqual(markers.after);
    expect(movedMarker(markers, 'b', 700).after.fromM).toBeCloseTo(markers.after.fromM + 100, 9);
    expect(movedMarker(markers, 'before-from', 5).before.fromM).toBe(5);
    expect(movedMarker(markers, 'before-to', 6).before.toM).toBe(6);
    expect(movedMarker(markers, 'after-from', 7).after.fromM).toBe(7);
    expect(movedMarker(markers, 'after-to', 8).after.toM).toBe(8);
  });
  it.each([
    [0, 0.3],
    [1, 0.2],
  ])('put around event %d they measure it at once', (i, lossDb) => {
    const event = analysis.events[i]!;
    const loss = lossByMarkers(trace, analysis, markersAround(trace, analysis, event, event));
    expect(loss.ok && Math.abs(loss.linesDb - lossDb) < 0.02).toBe(true);
  });
  it('put around two they measure what lies between', () => {
    const [from, to] = analysis.events;
    const loss = lossByMarkers(trace, analysis, markersAround(trace, analysis, from!, to!));
    expect(loss.ok && Math.abs(loss.linesDb - (0.5 + 0.4 * 0.33)) < 0.03).toBe(true);
  });
});

describe('events beside those of the file', () => {
  const listed = (
    positionM: number,
    lossDb: number,
    kind: 'reflective' | 'non_reflective' = 'reflective',
  ) => ({
    positionM,
    lossDb,
    kind,
    reflectanceDb: null,
    saturated: false,
    comment: '',
  });
  const said = (table: readonly ReturnType<typeof listed>[]): string[] =>
    eventRows(analysis, table, 3).map((row) => differenceWords(row, table.length > 0));

  it('say nothing where they agree, or where the file lists none', () => {
    expect(said([])).toEqual(['', '', '']);
    expect(said([listed(500, 0.31), listed(900, 0.2, 'non_reflective')])).toEqual([
      '',
      '',
      'not in the file',
    ]);
  });
  it('name what the two do not agree on', () => {
    const words = said([listed(500, 0.6), listed(700, 0.1), listed(900, 0.2)]);
    expect(words).toEqual([
      '0.30 dB apart',
      'only in the file',
      'another kind in the file',
      'not in the file',
    ]);
  });
  it('a ghost that the file takes for an event is told', () => {
    const [row] = eventRows(
      { ...analysis, events: [{ ...analysis.events[0]!, ghost: true }] },
      [listed(500, 0)],
      3,
    );
    expect(differenceWords(row!, true)).toBe('a ghost, listed in the file as an event');
    expect(differenceWords({ ...row!, listed: null }, true)).toBe('');
  });
});
