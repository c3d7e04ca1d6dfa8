import path from 'node:path';
import { type CleavedEnd, measureCleave } from '@clear-mark/core';
import { greyPicture } from './grey-picture.ts';

export interface MeasureOrder {
  readonly kind: 'cleave';
  readonly file: string;
}
/** What was measured in one picture, in the fields of docs/formats/measured-pictures.md. */
export interface MeasuredFile {
  readonly file: string;
  readonly ok: boolean;
  readonly reason?: string;
  readonly scale_um_per_px?: number;
  readonly u_scale_um_per_px?: number;
  readonly fibers?: readonly MeasuredFiber[];
}
export interface MeasuredFiber {
  readonly side: 'left' | 'right';
  readonly angle_deg: number | null;
  readonly u_deg: number | null;
  readonly class: string;
  readonly dirty: boolean;
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits));
const orNull = (value: number | null, digits: number): number | null =>
  value === null ? null : round(value, digits);

/** Reads one picture and measures what it shows. What cannot be measured is told with its reason. */
export async function measureFile({ file }: MeasureOrder): Promise<MeasuredFile> {
  const name = path.basename(file);
  const grey = await greyPicture(file);
  if ('refused' in grey) return { file: name, ok: false, reason: grey.refused };
  const found = measureCleave(grey);
  if (!found.ok) return { file: name, ok: false, reason: found.reason };
  return {
    file: name,
    ok: true,
    scale_um_per_px: round(found.umPerPx, 5),
    u_scale_um_per_px: round(found.umPerPxSd, 5),
    fibers: found.ends.map(fiberOf),
  };
}

const fiberOf = (end: CleavedEnd): MeasuredFiber => ({
  side: end.side,
  angle_deg: orNull(end.angleDeg, 4),
  u_deg: orNull(end.angleSd, 4),
  class: end.class,
  dirty: end.isDirty,
});
