import type { ClassDetail } from '@clear-mark/contract';
import { readCode } from '@clear-mark/paper';
import type { RouteLocationRaw } from 'vue-router';

/** An attempt that a scan can lead to. */
export interface ScannedPiece {
  readonly attemptId: string;
  readonly pieceLabel: string;
  readonly traineeId: string;
  readonly isOpen: boolean;
}

/**
 * Where a scanned label leads in the class that is open: a piece by its label to its sheet, one that is not begun to Today; a trainee's label to the open
 * piece, or to Today; equipment to its list; a card's code to its method, in the version that it names or the one that is here.
 * Null for what is none of this class's.
 */
export function placeOfScan(
  text: string,
  detail: Pick<ClassDetail, 'id' | 'trainees' | 'things' | 'methods'> | null,
  pieces: readonly ScannedPiece[],
): RouteLocationRaw | null {
  const classId = detail?.id ?? '';
  const sheet = (piece: ScannedPiece | undefined): RouteLocationRaw | null =>
    piece ? { name: 'sheet', params: { classId, attemptId: piece.attemptId } } : null;
  const ofLabel = (label: string): RouteLocationRaw | null =>
    sheet(pieces.find((p) => p.pieceLabel.toLowerCase() === label.trim().toLowerCase()));
  const code = readCode(text);
  if (!code) return ofLabel(text);
  if (!detail) return null;
  const [first, second] = code.parts;
  switch (code.kind) {
    case 'trainee':
      if (!detail.trainees.some((t) => t.id === first)) return null;
      return (
        sheet(pieces.find((p) => p.traineeId === first && p.isOpen)) ?? { name: 'today', params: { classId } }
      );
    case 'thing':
      return detail.things.some((t) => t.id === first)
        ? { name: 'setup', params: { classId }, query: { view: 'equipment' } }
        : null;
    case 'method': {
      const all = detail.methods.filter((m) => m.methodId === first);
      const method = all.find((m) => String(m.version) === second) ?? all[0];
      return method ? { name: 'method', params: { classId, versionId: method.versionId } } : null;
    }
    case 'piece':
      return (
        ofLabel(code.parts.slice(1).join(':')) ??
        (detail.trainees.some((t) => t.id === first) ? { name: 'today', params: { classId } } : null)
      );
    default: {
      const never: never = code.kind;
      return never;
    }
  }
}
