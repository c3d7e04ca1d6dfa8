import { computed, ref } from 'vue';
import { useClassroom } from '../../classroom/use-classroom.ts';
import { useLiveOutcomes } from '../../classroom/live-outcomes.ts';
import { useSlowClock } from '../../shared/use-slow-clock.ts';
import { deviceSettings } from '../../storage/device-settings.ts';
import { BOARD_ORDERS, type BoardOrder, countsOf, inOrder, type NeedKind, needsOf } from './needs.model.ts';
import { benchesOf } from './today.model.ts';

/** The benches of the class with what each wants: filtered, in an order and at a size that this device keeps. */
export function useBoard() {
  const classroom = useClassroom();
  const live = useLiveOutcomes();
  const now = useSlowClock();
  const benches = computed(() => benchesOf(classroom.tiles ?? [], live.attempts));
  const withNeeds = computed(() =>
    benches.value.map((bench) => ({ bench, needs: needsOf(bench, now.value) })),
  );

  const groups = computed(() => {
    const named = (classroom.detail?.trainees ?? []).filter((t) => t.group !== '');
    return [...new Set(named.map((t) => t.group))].sort((a, b) => a.localeCompare(b));
  });
  const group = ref('');
  const inGroup = computed(() => {
    if (!groups.value.includes(group.value)) return withNeeds.value;
    const trainees = (classroom.detail?.trainees ?? []).filter((t) => t.group === group.value);
    const ids = new Set(trainees.map((t) => t.id));
    return withNeeds.value.filter(({ bench }) => ids.has(bench.tile.traineeId));
  });
  const counts = computed(() => countsOf(inGroup.value));

  const wanted = ref<NeedKind | null>(null);
  /** A need that no bench has any more filters nothing: the board is never empty for it. */
  const filter = computed(() => (counts.value.some((c) => c.kind === wanted.value) ? wanted.value : null));
  const kept = deviceSettings.read('board-order');
  const order = ref<BoardOrder>(BOARD_ORDERS.find((o) => o === kept) ?? 'class');
  const room = ref(deviceSettings.read('board-size') === 'room');
  const shown = computed(() => {
    const by = filter.value;
    const some =
      by === null ? inGroup.value : inGroup.value.filter((b) => b.needs.some((n) => n.kind === by));
    return inOrder(some, order.value);
  });

  function setOrder(next: BoardOrder): void {
    order.value = next;
    deviceSettings.write('board-order', next);
  }
  function setRoom(large: boolean): void {
    room.value = large;
    deviceSettings.write('board-size', large ? 'room' : 'tablet');
  }
  return {
    now,
    benches,
    shown,
    groups,
    group,
    inGroup,
    counts,
    wanted,
    filter,
    order,
    room,
    setOrder,
    setRoom,
  };
}
