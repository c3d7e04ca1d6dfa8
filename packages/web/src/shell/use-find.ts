import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { useClassroom } from '../classroom/use-classroom.ts';
import { useLiveOutcomes } from '../classroom/live-outcomes.ts';
import { useSession } from '../session/session.ts';
import { ACTS, type Finding, placesOf } from './find.model.ts';

/** The find panel: whether it is open, and all that it can lead to from here. */
export const useFind = defineStore('find', () => {
  const session = useSession();
  const classroom = useClassroom();
  const live = useLiveOutcomes();
  const isOpen = ref(false);
  /** What is searched for. */
  const text = ref('');
  function open(): void {
    text.value = '';
    isOpen.value = true;
  }
  /** A letter that comes while the panel is open and its field has not the focus yet; whether it was one. */
  function take({ key, ctrlKey, metaKey, altKey, target }: KeyboardEvent): boolean {
    const elsewhere = target instanceof HTMLInputElement && target.dataset['number'] === undefined;
    if (!isOpen.value || elsewhere || key.length !== 1 || ctrlKey || metaKey || altKey) return false;
    text.value += key;
    return true;
  }

  const sheetOf = (attemptId: string): Finding['to'] => ({
    name: 'sheet',
    params: { classId: classroom.classId, attemptId },
  });
  /** Each trainee's open and today's signed pieces; who has nothing open can start one. */
  const pieces = computed(() =>
    (classroom.tiles ?? []).flatMap(({ traineeId, traineeName, today }): Finding[] => {
      const open = live.attempts.filter((a) => a.attempt.traineeId === traineeId);
      const one = { label: traineeName, verdict: null, act: null };
      const start: Finding = {
        ...one,
        key: traineeId,
        detail: 'start a piece',
        to: { name: 'today', params: { classId: classroom.classId }, query: { start: traineeId } },
      };
      return [
        ...open.map(({ attempt, outcome }) => ({
          ...one,
          key: attempt.id,
          detail: `${attempt.pieceLabel}, open`,
          verdict: outcome.verdict,
          to: sheetOf(attempt.id),
        })),
        ...today.map((p) => ({
          ...one,
          key: p.attemptId,
          detail: p.pieceLabel,
          verdict: p.verdict,
          to: sheetOf(p.attemptId),
        })),
        ...(open.length === 0 ? [start] : []),
      ];
    }),
  );
  const methods = computed(() =>
    (classroom.detail?.methods ?? []).map(({ versionId, title }): Finding => ({
      key: versionId,
      label: title,
      detail: 'method',
      verdict: null,
      to: { name: 'method', params: { classId: classroom.classId, versionId } },
      act: null,
    })),
  );
  const all = computed((): readonly Finding[] => {
    if (!session.teaches) return ACTS;
    const id = classroom.classId;
    const places = id === '' ? [] : placesOf(id, session.me?.role === 'lead');
    return [...pieces.value, ...places, ...methods.value, ...ACTS];
  });
  return { isOpen, text, open, take, all };
});
