import path from 'node:path';
import { type CleavedEnd, type GreyImage, measureCleave, measureSplice, type WithSd } from '@clear-mark/core';
import { greyPicture } from './grey-picture.ts';

export type MeasuredKind = 'cleave' | 'splice';
export interface MeasureOrder {
  readonly kind: MeasuredKind;
  readonly file: string;
  /** What is known of a joint beforehand. */
  readonly views?: 1 | 2 | undefined;
  readonly modeFieldUm?: number | undefined;
}
/** What was measured in one picture, in the fields of docs/formats/measured-pictures.md. */
export interface MeasuredFile extends Partial<MeasuredSpliceFields> {
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
export interface MeasuredSpliceFields {
  readonly class: string;
  readonly offset_um: number;
  readonly u_offset_um: number;
  readonly core_offset_um: number | null;
  readonly u_core_offset_um: number | null;
  readonly angle_deg: number;
  readonly u_angle_deg: number;
  readonly diameter_change_um: number;
  readonly u_diameter_change_um: number;
  readonly bubble_um: number | null;
  readonly u_bubble_um: number | null;
  readonly loss_db: number;
  readonly u_loss_db: number;
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits));
const orNull = (value: number | null, digits: number): number | null =>
  value === null ? null : round(value, digits);

/** Reads one picture and measures what it shows. What cannot be measured is told with its reason. */
export async function measureFile(order: MeasureOrder): Promise<MeasuredFile> {
  const name = path.basename(order.file);
  const grey = await greyPicture(order.file);
  if ('refused' in grey) return { file: name, ok: false, reason: grey.refused };
  return { file: name, ...(order.kind === 'cleave' ? cleaveIn(grey) : spliceIn(grey, order)) };
}

type Found = Omit<MeasuredFile, 'file'>;
function cleaveIn(grey: GreyImage): Found {
  const found = measureCleave(grey);
  if (!found.ok) return found;
  return { ok: true, ...scaleOf(found), fibers: found.ends.map(fiberOf) };
}
const scaleOf = ({ umPerPx, umPerPxSd }: { umPerPx: number; umPerPxSd: number }): Partial<Found> => ({
  scale_um_per_px: round(umPerPx, 5),
  u_scale_um_per_px: round(umPerPxSd, 5),
});
const fiberOf = (end: CleavedEnd): MeasuredFiber => ({
  side: end.side,
  angle_deg: orNull(end.angleDeg, 4),
  u_deg: orNull(end.angleSd, 4),
  class: end.class,
  dirty: end.isDirty,
});

function spliceIn(grey: GreyImage, { views, modeFieldUm }: MeasureOrder): Found {
  const found = measureSplice(grey, {
    ...(views === undefined ? {} : { views }),
    ...(modeFieldUm === undefined ? {} : { modeFieldUm }),
  });
  if (!found.ok) return found;
  const valueOf = (of: WithSd | null): number | null => of && round(of.value, 4);
  const sdOf = (of: WithSd | null): number | null => of && round(of.sd, 4);
  return {
    ok: true,
    ...scaleOf(found),
    class: found.class,
    offset_um: round(found.offsetUm.value, 4),
    u_offset_um: round(found.offsetUm.sd, 4),
    core_offset_um: valueOf(found.coreOffsetUm),
    u_core_offset_um: sdOf(found.coreOffsetUm),
    angle_deg: round(found.angleDeg.value, 4),
    u_angle_deg: round(found.angleDeg.sd, 4),
    diameter_change_um: round(found.diameterChangeUm.value, 3),
    u_diameter_change_um: round(found.diameterChangeUm.sd, 3),
    bubble_um: valueOf(found.bubbleUm),
    u_bubble_um: sdOf(found.bubbleUm),
    loss_db: round(found.lossDb.value, 5),
    u_loss_db: round(found.lossDb.sd, 5),
  };
}
