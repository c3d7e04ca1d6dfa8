import { computed } from 'vue';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useSession } from '../../session/session.ts';

/** Who is meant by an id on a sheet: `you`, or the name that the class knows. */
export function useNames(): (id: string) => string {
  const classroom = useClassroom();
  const session = useSession();
  const people = computed(() => {
    const known = [...(classroom.detail?.instructors ?? []), ...(classroom.detail?.trainees ?? [])];
    return new Map(known.map((p) => [p.id, p.name]));
  });
  return (id) => (id === session.me?.id ? 'you' : (people.value.get(id) ?? 'someone of the class'));
}
