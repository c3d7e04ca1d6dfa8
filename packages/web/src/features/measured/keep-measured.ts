import type { CleaveReading, EntryValue } from '@clear-mark/core';
import type { NewMeasuredPictureBody } from '@clear-mark/contract';
import { request, ROUTES, sendPicture } from '../../api/client.ts';
import { classChanged } from '../../api/queries.ts';
import type { Line, ReadValue } from './cleave.model.ts';

/** A picture that was measured. */
export interface Shot {
  readonly picture: Blob;
  readonly url: string;
  readonly width: number;
  readonly height: number;
  readonly reading: CleaveReading;
  readonly source: NewMeasuredPictureBody['source'];
}
export interface PieceCriterion {
  readonly classId: string;
  readonly attemptId: string;
  readonly criterionId: string;
}
interface Found extends ReadValue {
  readonly id: string;
  readonly side: 'left' | 'right';
  readonly dragged: Line | null;
}

/** Sends a picture, then what was found in it; gives the value that names it. Errors: `Refusal`, `NoServer`. */
export async function keepMeasured(
  { classId, attemptId, criterionId }: PieceCriterion,
  { picture, url: _, ...shot }: Shot,
  { id, side, dragged, text, expanded }: Found,
): Promise<EntryValue> {
  const sha256 = await sendPicture(classId, picture);
  const body = {
    ...shot,
    id,
    criterionId,
    kind: 'cleave',
    sha256,
    takenAt: new Date().toISOString(),
    side,
    dragged,
    value: text,
    expanded,
  } as unknown as NewMeasuredPictureBody;
  await request(ROUTES.addMeasuredPicture, { params: { id: classId, attemptId }, body });
  classChanged(classId);
  return { kind: 'measure', text, unit: 'deg', picture: { id, expanded } };
}
