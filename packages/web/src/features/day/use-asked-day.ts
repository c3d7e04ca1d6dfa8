import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useClassroom } from '../../classroom/use-classroom.ts';

/** The day that the address names; that of the class today where it names none. */
export function useAskedDay() {
  const route = useRoute();
  const router = useRouter();
  const classroom = useClassroom();
  const day = computed(() => {
    const asked = String(route.query['day'] ?? '');
    return /^\d{4}-\d{2}-\d{2}$/.test(asked) ? asked : classroom.today();
  });
  const open = (next: string | null): void => {
    if (next) void router.replace({ query: { ...route.query, day: next } });
  };
  return { day, open };
}
