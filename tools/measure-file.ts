import path from 'node:path';
import {
  angleSdOfScreen,
  type CameraCard,
  type CleavedEnd,
  type ColourImage,
  type EndLength,
  type GreyImage,
  measureCleave,
  measureEnd,
  measureSplice,
  type WithSd,
} from '@clear-mark/core';
import { colourPicture, greyPicture } from './grey-picture.ts';

export type MeasuredKind = 'cleave' | 'splice' | 'end';
export interface MeasureOrder {
  readonly kind: MeasuredKind;
  readonly file: string;
  /** What is known of a joint beforehand. */
  readonly views?: 1 | 2 | undefined;
  readonly modeFieldUm?: number | undefined;
  /** Whether a hand-held camera took a cleave from a screen. */
  readonly ofScreen?: boolean | undefined;
  /** The card that an end lies on. */
  readonly card?: CameraCard | undefined;
}
/** What was measured in one picture, in the fields of docs/formats/measured-pictures.md. */
export interface MeasuredFile extends Partial<MeasuredSpliceFields>, Partial<MeasuredEndFields> {
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

export interface MeasuredEndFields {
  readonly jacket_mm: number | null;
  readonly u_jacket_mm: number | null;
  readonly buffer_mm: number | null;
  readonly u_buffer_mm: number | null;
  readonly glass_mm: number | null;
  readonly u_glass_mm: number | null;
  readonly jacket_diameter_mm: number | null;
  readonly u_jacket_diameter_mm: number | null;
  readonly print_scale: number;
}

const round = (value: number, digits: number): number => Number(value.toFixed(digits));
const orNull = (value: number | null, digits: number): number | null =>
  value === null ? null : round(value, digits);

/** Reads one picture and measures what it shows. What cannot be measured is told with its reason. */
export async function measureFile(order: MeasureOrder): Promise<MeasuredFile> {
  const name = path.basename(order.file);
  if (order.kind === 'end') {
    const colour = await colourPicture(order.file);
    if ('refused' in colour) return { file: name, ok: false, reason: colour.refused };
    return { file: name, ...endIn(colour, order.card!) };
  }
  const grey = await greyPicture(order.file);
  if ('refused' in grey) return { file: name, ok: false, reason: grey.refused };
  return { file: name, ...(order.kind === 'cleave' ? cleaveIn(grey, order) : spliceIn(grey, order)) };
}

type Found = Omit<MeasuredFile, 'file'>;
function cleaveIn(grey: GreyImage, { ofScreen = false }: MeasureOrder): Found {
  const found = measureCleave(grey);
  if (!found.ok) return found;
  return { ok: true, ...scaleOf(found), fibers: found.ends.map((end) => fiberOf(end, ofScreen)) };
}
const scaleOf = ({ umPerPx, umPerPxSd }: { umPerPx: number; umPerPxSd: number }): Partial<Found> => ({
  scale_um_per_px: round(umPerPx, 5),
  u_scale_um_per_px: round(umPerPxSd, 5),
});
const fiberOf = (end: CleavedEnd, ofScreen: boolean): MeasuredFiber => ({
  side: end.side,
  angle_deg: orNull(end.angleDeg, 4),
  u_deg: orNull(end.angleSd !== null && ofScreen ? angleSdOfScreen(end.angleSd) : end.angleSd, 4),
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

function endIn(colour: ColourImage, card: CameraCard): Found {
  const found = measureEnd(colour, card);
  if (!found.ok) return found;
  const mm = (of: EndLength | null): number | null => of && round(of.mm, 3);
  const sd = (of: EndLength | null): number | null => of && round(of.sdMm, 3);
  const { jacketDiameter } = found;
  return {
    ok: true,
    jacket_mm: mm(found.jacket),
    u_jacket_mm: sd(found.jacket),
    buffer_mm: mm(found.buffer),
    u_buffer_mm: sd(found.buffer),
    glass_mm: mm(found.glass),
    u_glass_mm: sd(found.glass),
    jacket_diameter_mm: jacketDiameter && round(jacketDiameter.mm, 3),
    u_jacket_diameter_mm: jacketDiameter && round(jacketDiameter.sdMm, 3),
    print_scale: round(found.print.scale, 5),
  };
}
