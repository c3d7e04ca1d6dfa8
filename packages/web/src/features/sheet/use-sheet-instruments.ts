import type { CordStamp, Criterion, EntryValue } from '@clear-mark/core';
import { computed, getCurrentScope, watch } from 'vue';
import { useInstruments } from '../../instruments/use-instruments.ts';
import { useSession } from '../../session/session.ts';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { newestCheck } from './loss-field.model.ts';
import type { SheetState } from './use-sheet.ts';

/** The instruments that an open sheet may take values from, and the acts that take them. */
export function useSheetInstruments(sheet: SheetState) {
  const instruments = useInstruments();
  const classroom = useClassroom();
  const session = useSession();
  const scope = getCurrentScope()!;

  /** Not while the server is away: a sheet opens without a request then. */
  const followed = computed(() => {
    const open = sheet.document.value?.attempt.state === 'open' && sheet.mine.value;
    const away = session.teaches && classroom.connection === 'away';
    return open && !away ? sheet.document.value!.attempt.classId : '';
  });
  watch(
    followed,
    (id) => {
      if (id !== '') scope.run(() => instruments.follow(id));
    },
    { immediate: true },
  );

  const splicer = computed(() => {
    const used = sheet.sheet.value?.thingsUsed.includes('splicer') ? instruments.ofKind('splicer') : [];
    const own = sheet.document.value?.attempt.things.find((t) => t.kind === 'splicer')?.id;
    return used.find((s) => s.instrument.thingId === own) ?? used[0] ?? null;
  });
  /** The meter of the piece: what is connected as something else, such as a source or an OTDR, reads no loss. */
  const meterId = computed((): string | null => {
    const isNoMeter = (thingId: string): boolean =>
      instruments.all.some(
        ({ instrument }) => instrument.thingId === thingId && instrument.kind !== 'power_meter',
      );
    const things = sheet.document.value?.attempt.things ?? [];
    return things.find((t) => t.kind === 'instrument' && !isNoMeter(t.id))?.id ?? null;
  });
  const portLight = computed(() => instruments.ofKind('port_light')[0] ?? null);

  /** Everything that the splicer shows, into the criteria that it is for, in one tap. */
  function takeSplice(values: readonly { name: string; value: EntryValue }[]): void {
    for (const { name, value } of values) {
      const item = sheet.criteria.value.find((c) => c.criterion.id.endsWith(`/${name}`));
      if (!item) continue;
      sheet.add({ kind: 'value', criterionId: item.criterion.id, value, source: 'instrument' });
    }
  }
  /** The newest check of the test cord that this piece was started with; null where it has none. */
  const cord = computed<CordStamp | null>(() => {
    const used = sheet.document.value?.attempt.things.find((t) => t.kind === 'cord');
    const check = newestCheck(used?.check, classroom.detail?.things.find((t) => t.id === used?.id)?.check);
    if (!used || !check) return null;
    const { checkedOn, dueOn, lossDb, limitDb } = check;
    return { thingId: used.id, label: used.label, checkedOn, dueOn, lossDb, limitDb };
  });
  /** A loss with the check of its cord beside it: an overdue or failed one makes the reading void. */
  const withCord = (value: EntryValue): EntryValue =>
    value.kind === 'loss' && cord.value ? { ...value, cord: cord.value } : value;

  /** What the check of the launch said; null while it is open, or where the method has none. */
  function conditionedOf(criterion: Criterion): boolean | null {
    const by = criterion.kind === 'loss' ? criterion.conditionedBy : undefined;
    const outcome = by === undefined ? undefined : sheet.outcomes.value.get(by);
    return outcome?.state === 'scored' ? outcome.verdict === 'pass' : null;
  }
  return { splicer, portLight, meterId, takeSplice, cord, withCord, conditionedOf };
}

export type SheetInstruments = ReturnType<typeof useSheetInstruments>;
