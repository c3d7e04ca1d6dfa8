import { type Skill, SKILLS } from '@clear-mark/core';
import type { AttemptRow } from '@clear-mark/contract';
import { skillWords } from '@clear-mark/words';
import { label, TREND, trendSvg } from './trend-drawing.ts';

export interface RatedPiece extends Pick<AttemptRow, 'skills'> {
  readonly dayWords: string;
}

/** The share is of so many outcomes, the newest of them at its place. */
const OF_LAST = 5;
const LEFT = 112;
const TOP = 10;
const ROW = 54;
/** Of a row: where the line is at nothing and at all, and where the marks stand. */
const LINE = { none: 30, all: 6 } as const;
const MARKS = 42;
const BELOW = 22;

/**
 * How often each skill was passed in time, as a drawing: a row a skill, each outcome as a mark (filled where it passed, crossed through where it failed),
 * above them the share that passed of the last five. Pieces the oldest first. Null where no skill has five outcomes.
 */
export function passTrend(pieces: readonly RatedPiece[]): string | null {
  const own = pieces.flatMap((p) => Object.keys(p.skills) as Skill[]);
  const rows = [...new Set<Skill>([...SKILLS, ...own])]
    .map((skill) => ({ skill, outcomes: outcomesOf(pieces, skill) }))
    .filter((row) => row.outcomes.length >= OF_LAST);
  if (rows.length === 0) return null;
  const x = (i: number): number =>
    LEFT + ((i + 0.5) * (TREND.width - LEFT - TREND.right)) / Math.max(1, pieces.length);
  const height = TOP + ROW * rows.length + BELOW;
  return trendSvg(height, [
    ...rows.flatMap(({ skill, outcomes }, n) => rowOf(skill, outcomes, TOP + n * ROW, x)),
    label(LEFT, height - 6, pieces[0]!.dayWords),
    label(TREND.width - TREND.right, height - 6, pieces.at(-1)!.dayWords, 'end'),
  ]);
}

interface Passed {
  /** Which of the pieces. */
  readonly at: number;
  readonly passed: boolean;
}
/** What counts: neither void nor incomplete. */
function outcomesOf(pieces: readonly RatedPiece[], skill: Skill): Passed[] {
  return pieces.flatMap(({ skills }, at): Passed[] => {
    const verdict = skills[skill];
    if (verdict === 'pass' || verdict === 'marginal_pass') return [{ at, passed: true }];
    return verdict === 'fail' || verdict === 'marginal_fail' ? [{ at, passed: false }] : [];
  });
}

function rowOf(skill: Skill, outcomes: readonly Passed[], top: number, x: (i: number) => number): string[] {
  const y = (share: number): number => top + LINE.none + share * (LINE.all - LINE.none);
  const shares = outcomes.slice(OF_LAST - 1).map(({ at }, i) => ({
    at,
    passed: outcomes.slice(i, i + OF_LAST).filter((o) => o.passed).length,
  }));
  const points = shares.map((s) => `${x(s.at).toFixed(1)},${y(s.passed / OF_LAST).toFixed(1)}`);
  const right = TREND.width - TREND.right;
  const hair = (at: number): string =>
    `<line x1="${LEFT}" y1="${at}" x2="${right}" y2="${at}" stroke="${TREND.hair}" stroke-width="1"/>`;
  return [
    label(0, top + 22, skillWords(skill)),
    hair(y(1)),
    hair(y(0)),
    label(LEFT - 6, y(1) + 4, '100 %', 'end'),
    label(LEFT - 6, y(0) + 4, '0 %', 'end'),
    `<polyline points="${points.join(' ')}" fill="none" stroke="${TREND.mark}" stroke-width="2"/>`,
    ...outcomes.map((o) => markOf(x(o.at), top + MARKS, o.passed)),
    label(right + 8, y(shares.at(-1)!.passed / OF_LAST) + 4, `${shares.at(-1)!.passed} of ${OF_LAST}`),
  ];
}

const markOf = (x: number, y: number, passed: boolean): string => {
  const ring = `<circle cx="${x.toFixed(1)}" cy="${y}" r="3.6" fill="${passed ? TREND.mark : '#ffffff'}" stroke="${passed ? TREND.mark : TREND.ink}" stroke-width="1.4"/>`;
  const cross = `<line x1="${(x - 4.6).toFixed(1)}" y1="${y + 4.6}" x2="${(x + 4.6).toFixed(1)}" y2="${y - 4.6}" stroke="${TREND.ink}" stroke-width="1.4"/>`;
  return passed ? ring : `${ring}${cross}`;
};
