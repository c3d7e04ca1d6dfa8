/**
 * One mark of a drawing on a 64 x 64 field; the face itself (a circle of radius 26), or the fiber from the side
 * (a bar from y 18 to 46), is drawn by the view.
 */
export interface DrawingMark {
  readonly path: string;
  /** `line` is stroked, `area` filled, `haze` filled at a third. */
  readonly style: 'line' | 'area' | 'haze';
}

export interface Drawing {
  readonly core: boolean;
  /** A joint seen from the side instead of a face seen end on. */
  readonly side?: boolean;
  readonly marks: readonly DrawingMark[];
}

/** A drawing for each level of a described scale: cleaved and polished faces seen end on. */
export const DRAWINGS: Readonly<Record<string, Drawing>> = {
  'cleave-mirror': { core: false, marks: [] },
  'cleave-mist': {
    core: false,
    marks: [{ style: 'haze', path: 'M50 14A26 26 0 0 1 50 50Q44 32 50 14Z' }],
  },
  'cleave-lip': {
    core: false,
    marks: [{ style: 'area', path: 'M24 57Q32 66 40 57Q32 52 24 57Z' }],
  },
  'cleave-hackle': {
    core: false,
    marks: [{ style: 'line', path: 'M38 20L54 18M36 26L57 26M36 32L58 32M36 38L57 39M38 44L54 47' }],
  },
  'cleave-chip': {
    core: false,
    marks: [
      { style: 'area', path: 'M8 24L18 28L14 36L7 38Z' },
      { style: 'line', path: 'M18 30L26 34L31 31' },
    ],
  },
  'joint-clean': { core: false, side: true, marks: [] },
  'joint-line': { core: false, side: true, marks: [{ style: 'line', path: 'M32 18V46' }] },
  'joint-offset': {
    core: false,
    side: true,
    marks: [{ style: 'line', path: 'M4 30H32M32 35H60' }],
  },
  'joint-bubble': {
    core: false,
    side: true,
    marks: [{ style: 'area', path: 'M27 32a5 5 0 1 0 10 0a5 5 0 1 0 -10 0Z' }],
  },
  'joint-neck': {
    core: false,
    side: true,
    marks: [{ style: 'area', path: 'M22 18Q32 27 42 18ZM22 46Q32 37 42 46Z' }],
  },
  'face-clean': { core: true, marks: [] },
  'face-outer': {
    core: true,
    marks: [
      { style: 'line', path: 'M12 24L22 14' },
      { style: 'area', path: 'M46 46l3 0l0 3l-3 0Z' },
    ],
  },
  'face-dirt': {
    core: true,
    marks: [
      { style: 'haze', path: 'M22 24Q34 16 44 26Q48 38 36 42Q22 42 22 24Z' },
      { style: 'area', path: 'M28 36l4 -2l3 3l-3 4l-4 -1ZM40 22l3 1l-1 3l-3 -1Z' },
    ],
  },
  'face-broken': {
    core: true,
    marks: [
      { style: 'area', path: 'M8 40L24 36L34 44L26 57A26 26 0 0 1 8 40Z' },
      { style: 'line', path: 'M34 44L44 40L56 44' },
    ],
  },
  'face-core': {
    core: true,
    marks: [{ style: 'line', path: 'M10 44Q30 34 55 20' }],
  },
};

export { STEP_DRAWINGS, type StepDrawing, type StepMark } from './step-drawings.ts';
