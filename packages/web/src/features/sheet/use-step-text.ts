import { computed } from 'vue';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useSession } from '../../session/session.ts';
import { usePreferences } from '../../shell/preferences.ts';

/** So many pieces each step is explained at a trainee's bench; after that whoever wants to know asks. */
const EXPLAINED_PIECES = 3;

/** Whether the text of each step is folded away: for those who teach, once the trainee has made some pieces. */
export function useStepText(traineeId: () => string | undefined) {
  const classroom = useClassroom();
  const preferences = usePreferences();
  const session = useSession();
  const folded = computed(() => {
    const made = classroom.tiles?.find((t) => t.traineeId === traineeId())?.pieces ?? 0;
    return session.teaches && !preferences.explained && made > EXPLAINED_PIECES;
  });
  return { folded };
}
