import { type FaceLevel, levelOfFace } from '@clear-mark/core';
import type { FaceRow } from '@clear-mark/contract';
import { shallowRef } from 'vue';
import { ROUTES } from '../../api/client.ts';
import { askOnce } from '../../api/queries.ts';

/** The level that the piece's newest graded picture gives; null where none was graded, or the server is away. */
export const levelOfRows = (rows: readonly FaceRow[]): FaceLevel | null => {
  const graded = rows.filter((r) => r.verdict !== null && r.view === 'single');
  const newest = graded.reduce<FaceRow | null>((a, b) => (a && a.takenAt > b.takenAt ? a : b), null);
  return newest ? levelOfFace(newest.verdict!, newest.faults) : null;
};

/** What the grading of the piece's end face says of it; asked for by a sheet that judges one. */
export function useGradedFace(classId: string, attemptId: string) {
  const level = shallowRef<FaceLevel | null>(null);
  async function load(): Promise<void> {
    if (classId === '') return;
    const rows = await askOnce(ROUTES.faces, { params: { id: classId }, query: { attemptId } }).catch(
      () => [],
    );
    level.value = levelOfRows(rows);
  }
  return { level, load };
}
