import type { ClassLink } from '@clear-mark/contract';
import { computed, ref, shallowRef, watch } from 'vue';
import { request, ROUTES, wordsOf } from '../../../api/client.ts';
import { useClassroom } from '../../../classroom/use-classroom.ts';

const SAVE_AFTER_MS = 700;

/** The links of the class, and the one that is being described: saved by itself a moment after each change. */
export function useLinks(classId: string) {
  const classroom = useClassroom();
  const chosenId = ref<string | null>(null);
  const draft = shallowRef<ClassLink | null>(null);
  const failure = ref<string | null>(null);
  const state = ref<'saved' | 'saving' | 'changed'>('saved');
  let timer: ReturnType<typeof setTimeout> | null = null;

  const links = computed(() => classroom.detail?.links ?? []);
  watch(
    links,
    (list) => {
      if (chosenId.value === null) choose(list.find((l) => !l.retired)?.id ?? null);
    },
    { immediate: true },
  );

  function choose(id: string | null): void {
    if (timer) void save();
    chosenId.value = id;
    draft.value = links.value.find((l) => l.id === id) ?? null;
    failure.value = null;
    state.value = 'saved';
  }
  function start(link: ClassLink): void {
    if (timer) void save();
    chosenId.value = link.id;
    draft.value = link;
    change({});
  }
  function change(what: Partial<ClassLink>): void {
    if (!draft.value) return;
    draft.value = { ...draft.value, ...what };
    state.value = 'changed';
    if (timer) clearTimeout(timer);
    timer = setTimeout(() => void save(), SAVE_AFTER_MS);
  }
  async function save(): Promise<void> {
    if (timer) clearTimeout(timer);
    timer = null;
    const link = draft.value;
    if (!link) return;
    state.value = 'saving';
    try {
      const { id, ...body } = link;
      await request(ROUTES.saveLink, { params: { id: classId, linkId: id }, body });
      failure.value = null;
      if (draft.value === link) state.value = 'saved';
    } catch (error) {
      failure.value = wordsOf(error);
      state.value = 'changed';
    }
  }
  return { links, draft, chosenId, failure, state, choose, start, change };
}
