import type { DayMethod, DayPlanBody, PlannedDay } from '@clear-mark/contract';
import { computed, type ComputedRef } from 'vue';
import { useLiveOutcomes } from '../../../classroom/live-outcomes.ts';
import { behindNow } from './now.model.ts';

/** Minutes by which each trainee is behind the plan of a day, as their open pieces stand; empty on another day than today (`minute` null). */
export function useBehind(
  day: () => DayPlanBody | null,
  minute: () => number | null,
  signed: () => PlannedDay['signed'],
  methods: () => readonly DayMethod[],
): ComputedRef<ReadonlyMap<string, number>> {
  const live = useLiveOutcomes();
  return computed(() => {
    const planned = day();
    const at = minute();
    if (!planned?.plan || at === null) return new Map<string, number>();
    const open = live.attempts.map(({ attempt, stepNumber }) => ({
      traineeId: attempt.traineeId,
      versionId: attempt.methodVersionId,
      stepNumber,
    }));
    return behindNow(planned, at, open, signed(), methods());
  });
}
