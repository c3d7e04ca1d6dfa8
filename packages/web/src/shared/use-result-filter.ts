import type { ClassDetail } from '@clear-mark/contract';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { type FilterChip, filterChips } from './filter-chips.model.ts';

/** What results and records of a class can be narrowed to, and how a choice gets into the address. */
export function useResultFilter(detail: () => ClassDetail | null) {
  const route = useRoute();
  const router = useRouter();
  const trainees = computed(() => (detail()?.trainees ?? []).map((t) => ({ value: t.id, label: t.name })));
  const equipment = computed(() => (detail()?.things ?? []).map((t) => ({ value: t.id, label: t.label })));
  const course = computed(() => {
    const { startsOn, endsOn } = detail() ?? {};
    return startsOn && endsOn ? { from: startsOn, to: endsOn } : null;
  });
  /** One choice a method, whatever its version. */
  const methodsOf = (methods: ClassDetail['methods']) =>
    [...new Map(methods.map((m) => [m.methodId, m.title]))].map(([value, label]) => ({ value, label }));

  /** An empty choice leaves the address; a list that was turned over begins again. */
  function set(choices: Readonly<Record<string, string>>): void {
    const query = { ...route.query, ...choices };
    delete query['skip'];
    for (const [name, value] of Object.entries(choices)) if (value === '') delete query[name];
    void router.replace({ query });
  }
  /** Takes choices away. */
  const clear = (keys: readonly string[]): void => set(Object.fromEntries(keys.map((key) => [key, ''])));
  const nameIn = (list: readonly { readonly id: string; readonly name: string }[] | undefined, id?: string) =>
    list?.find((each) => each.id === id)?.name ?? null;
  /** What is narrowed, with the names that its ids stand for. */
  const chipsOf = (filter: Parameters<typeof filterChips>[0]): FilterChip[] => {
    const criterion = route.query['criterionLabel'];
    return filterChips(filter, {
      trainee: nameIn(detail()?.trainees, filter.trainee),
      instructor: nameIn(detail()?.instructors, filter.instructor),
      thing: detail()?.things.find((t) => t.id === filter.thing)?.label ?? null,
      method: detail()?.methods.find((m) => m.methodId === filter.method)?.title ?? null,
      criterion: typeof criterion === 'string' ? criterion : null,
    });
  };
  return { trainees, equipment, course, methodsOf, set, clear, chipsOf };
}
