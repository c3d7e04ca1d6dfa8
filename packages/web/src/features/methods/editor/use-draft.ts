import { isSame, mergeSheets, type MethodSheet, readyProblems } from '@clear-mark/core';
import type { MethodDraft } from '@clear-mark/contract';
import { useDebounceFn, useManualRefHistory } from '@vueuse/core';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { request, Refusal, ROUTES, wordsOf } from '../../../api/client.ts';

/** Typing is one change until it rests for so long, ms. */
const ONE_CHANGE_MS = 600;
const SAVE_AFTER_MS = 900;
/** Changes that can be undone. */
const CHANGES = 200;

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'failed';

/**
 * A draft that is edited: undone and redone as a whole, saved by itself when the hands rest, put together with what another
 * lead saved meanwhile, and refused where both changed the same.
 */
export function useDraft(draftId: string) {
  const draft = shallowRef<MethodDraft | null>(null);
  const sheet = shallowRef<MethodSheet | null>(null);
  const failure = ref<string | null>(null);
  /** Another lead changed the same: what is here is not saved until theirs is loaded. */
  const clash = ref(false);
  const state = ref<SaveState>('saved');
  const history = useManualRefHistory(sheet, { capacity: CHANGES });
  const problems = computed(() => (sheet.value ? readyProblems(sheet.value) : []));
  const left = computed(() => problems.value.filter((p) => p.blocks));
  let saving: Promise<void> | null = null;

  async function load(): Promise<void> {
    failure.value = null;
    try {
      draft.value = await request(ROUTES.methodDraft, { params: { id: draftId } });
    } catch (error) {
      failure.value = wordsOf(error);
      return;
    }
    sheet.value = draft.value.sheet;
    history.commit();
    history.clear();
    [state.value, clash.value] = ['saved', false];
  }

  const commit = (): void => {
    if (sheet.value !== history.last.value.snapshot) history.commit();
  };
  const commitSoon = useDebounceFn(commit, ONE_CHANGE_MS);
  const saveSoon = useDebounceFn(() => void save(), SAVE_AFTER_MS);

  /** Changes the draft; what is typed on is one change until it rests, an act of its own is one by itself. */
  function edit(by: (sheet: MethodSheet) => MethodSheet, how: 'typed' | 'act' = 'typed'): void {
    if (!sheet.value) return;
    if (how === 'act') commit();
    sheet.value = by(sheet.value);
    if (how === 'act') history.commit();
    else void commitSoon();
    changed();
  }
  function changed(): void {
    state.value = 'unsaved';
    void saveSoon();
  }
  function undo(): void {
    commit();
    history.undo();
    changed();
  }
  function redo(): void {
    history.redo();
    changed();
  }

  async function save(): Promise<void> {
    if (saving) await saving;
    if (state.value === 'saved' || clash.value) return;
    saving = send();
    await saving;
    saving = null;
  }
  async function send(): Promise<void> {
    const from = draft.value!;
    const sent = sheet.value!;
    state.value = 'saving';
    try {
      const saved = await request(ROUTES.saveDraft, {
        params: { id: draftId },
        body: { revision: from.revision, sheet: sent as never },
      });
      draft.value = saved;
      failure.value = null;
      take(saved.sheet, sent);
    } catch (error) {
      clash.value = error instanceof Refusal && error.code === 'versions.edited_twice';
      failure.value = wordsOf(error);
      state.value = 'failed';
    }
  }
  /** What another lead saved comes in; what was typed while it was saved stays. */
  function take(saved: MethodSheet, sent: MethodSheet): void {
    const here = sheet.value!;
    if (here === sent) {
      state.value = 'saved';
      if (!isSame(saved, { ...sent, id: saved.id, version: saved.version })) sheet.value = saved;
      return;
    }
    try {
      sheet.value = mergeSheets(sent, here, saved);
    } catch {
      clash.value = true;
    }
    changed();
  }

  onScopeDispose(() => void save());
  return {
    draft,
    sheet,
    failure,
    clash,
    state,
    problems,
    left,
    canUndo: computed(() => history.canUndo.value || sheet.value !== history.last.value.snapshot),
    canRedo: history.canRedo,
    load,
    edit,
    undo,
    redo,
    save,
  };
}
export type DraftState = ReturnType<typeof useDraft>;
