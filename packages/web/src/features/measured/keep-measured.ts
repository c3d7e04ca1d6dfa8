import type { CleaveReading, EntryValue } from '@clear-mark/core';
import type { NewMeasuredPictureBody } from '@clear-mark/contract';
import { request, ROUTES, sendPicture } from '../../api/client.ts';
import { classChanged } from '../../api/queries.ts';
import type { ReadValue } from './cleave.model.ts';

/** A picture that was measured. */
export interface Shot<R = CleaveReading> {
  readonly picture: Blob;
  readonly url: string;
  readonly width: number;
  readonly height: number;
  readonly reading: R;
  readonly source: NewMeasuredPictureBody['source'];
}
export interface PieceCriterion {
  readonly classId: string;
  readonly attemptId: string;
  readonly criterionId: string;
}

/** How a value that was read in a picture goes into the sheet, under the picture's id. */
export type EntryOf = (pictureId: string) => EntryValue;

/**
 * Sends a picture, then what was found in it; gives the value that names it. `more` is what its kind says beside: which end, layer or level, and what
 * was dragged. Errors: `Refusal`, `NoServer`.
 */
export async function keepMeasured<R>(
  { classId, attemptId, criterionId }: PieceCriterion,
  { picture, url: _, ...shot }: Shot<R>,
  { id, text, expanded }: ReadValue & { readonly id: string },
  more: Partial<NewMeasuredPictureBody>,
  entryOf: EntryOf,
): Promise<EntryValue> {
  const sha256 = await sendPicture(classId, picture);
  const body = {
    ...shot,
    ...more,
    id,
    criterionId,
    sha256,
    takenAt: new Date().toISOString(),
    value: text,
    expanded,
  } as unknown as NewMeasuredPictureBody;
  await request(ROUTES.addMeasuredPicture, { params: { id: classId, attemptId }, body });
  classChanged(classId);
  return entryOf(id);
}
