import { DomainError } from '@clear-mark/core';
import { type ErrorCode, isErrorCode } from '@clear-mark/contract';
import { errorWords } from '@clear-mark/words';
import { computed, type ComputedRef, type Ref, ref, watch } from 'vue';

export interface CommittedValue {
  /** What stands in the field. */
  readonly text: Ref<string>;
  readonly changed: ComputedRef<boolean>;
  /** The text that looks like a slip: entered again it is taken as it stands. */
  readonly asking: Ref<string | null>;
  readonly problem: Ref<string | null>;
  /** Hands the text over; whether it stands now. */
  readonly take: () => boolean;
  /** The field is left: what was changed is taken, but a question that is open stays open. */
  readonly leave: () => void;
}

interface How {
  /** The standing value as text: the field follows it, and nothing else, so that typing is never overwritten. */
  readonly stands: () => string;
  /** The value is there already and need not be handed over again. */
  readonly settled?: () => boolean;
  /** Whether the text looks like a slip. Throws `DomainError` where it is no value. */
  readonly looksSlipped?: (text: string) => boolean;
  /** Takes the text; `confirmed` when it was asked about. Throws `DomainError` where it is no value. */
  readonly commit: (text: string, confirmed: boolean) => void;
}

/** A field whose text is its own until it is entered or left: checked then, asked about once, or told what is wrong. */
export function useCommittedValue({ stands, settled, looksSlipped, commit }: How): CommittedValue {
  const text = ref(stands());
  const asking = ref<string | null>(null);
  const problem = ref<string | null>(null);
  const changed = computed(() => text.value !== stands());
  watch(stands, (now) => {
    text.value = now;
    asking.value = null;
    problem.value = null;
  });

  function take(): boolean {
    problem.value = null;
    const written = text.value.trim();
    if (written === '') return false;
    if (!changed.value && (settled?.() ?? true)) return true;
    try {
      const slipped = looksSlipped?.(written) ?? false;
      if (slipped && asking.value !== text.value) {
        asking.value = text.value;
        return false;
      }
      commit(written, slipped);
      asking.value = null;
      return true;
    } catch (failed) {
      if (!(failed instanceof DomainError) || !isErrorCode(failed.code)) throw failed;
      problem.value = errorWords(failed.code as ErrorCode, failed.params);
      return false;
    }
  }
  const leave = (): void => {
    if (changed.value && asking.value === null) take();
  };
  return { text, changed, asking, problem, take, leave };
}
