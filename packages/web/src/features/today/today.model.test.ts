import type { TodayTile } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import type { LiveAttempt } from '../../classroom/live-outcomes.ts';
import { benchesOf, classWords } from './today.model.ts';

const tile = (id: string): TodayTile => ({ traineeId: id, traineeName: id }) as TodayTile;
const live = (id: string, traineeId: string, hand = false): LiveAttempt =>
  ({ attempt: { id, traineeId }, hand: hand ? {} : null }) as unknown as LiveAttempt;

describe('the board', () => {
  it('keeps the class’s order, and several pieces of one bench together', () => {
    const benches = benchesOf([tile('b'), tile('a')], [live('1', 'a'), live('2', 'b'), live('3', 'a')]);
    expect(benches.map((b) => [b.tile.traineeId, b.open.map((o) => o.attempt.id)])).toEqual([
      ['b', ['2']],
      ['a', ['1', '3']],
    ]);
  });
  it('says who works and who calls', () => {
    const tiles = [tile('a'), tile('b'), tile('c')];
    expect(classWords(benchesOf(tiles, []))).toBe('0 of 3 at work');
    expect(classWords(benchesOf(tiles, [live('1', 'a', true), live('2', 'b')]))).toBe(
      '2 of 3 at work · 1 bench calls',
    );
    expect(classWords(benchesOf(tiles, [live('1', 'a', true), live('2', 'b', true)]))).toContain(
      '2 benches call',
    );
  });
});
