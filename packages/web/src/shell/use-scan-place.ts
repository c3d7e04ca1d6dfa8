import { useRouter } from 'vue-router';
import { useLiveOutcomes } from '../classroom/live-outcomes.ts';
import { useClassroom } from '../classroom/use-classroom.ts';
import { placeOfScan } from './scan-place.ts';

/** Opens what a scanned label names in the class that is open; false where it names nothing of it. */
export function useScanPlace(): (label: string) => boolean {
  const router = useRouter();
  const classroom = useClassroom();
  const live = useLiveOutcomes();
  return (label) => {
    const open = live.attempts.map(({ attempt: a }) => ({
      attemptId: a.id,
      pieceLabel: a.pieceLabel,
      traineeId: a.traineeId,
      isOpen: true,
    }));
    const signed = (classroom.tiles ?? []).flatMap((t) =>
      t.today.map((p) => ({ ...p, traineeId: t.traineeId, isOpen: false })),
    );
    const place = placeOfScan(label, classroom.detail, [...open, ...signed]);
    if (place) void router.push(place);
    return place !== null;
  };
}
