import type { ClassDetail, ClassReference, TodayTile } from '@clear-mark/contract';
import { shallowRef } from 'vue';
import type { Refusal } from '../api/client.ts';
import type { KeptAttempt } from '../storage/kept-attempt.ts';

export type ConnectionState = 'starting' | 'live' | 'asking' | 'away';

/** What is known of the class that this device follows. */
export type ClassState = ReturnType<typeof classState>;

/** Nothing is followed yet. */
export function classState() {
  const state = {
    classId: shallowRef(''),
    detail: shallowRef<ClassDetail | null>(null),
    day: shallowRef(''),
    tiles: shallowRef<readonly TodayTile[] | null>(null),
    attempts: shallowRef<ReadonlyMap<string, KeptAttempt>>(new Map()),
    references: shallowRef<readonly ClassReference[]>([]),
    connection: shallowRef<ConnectionState>('starting'),
    /** How far the server's clock is ahead of this device's, ms. */
    offsetMs: shallowRef(0),
    refusal: shallowRef<Refusal | null>(null),
  };
  /** Forgets the class; the day and the clock hold for any. */
  function clear(): void {
    state.classId.value = '';
    state.detail.value = null;
    state.tiles.value = null;
    state.attempts.value = new Map();
    state.references.value = [];
    state.connection.value = 'starting';
    state.refusal.value = null;
  }
  /** What the device keeps of it; null while none is followed. */
  function forDevice() {
    return state.classId.value === ''
      ? null
      : {
          classId: state.classId.value,
          detail: state.detail.value,
          day: state.day.value,
          tiles: state.tiles.value ?? [],
          attempts: [...state.attempts.value.values()],
          references: state.references.value,
          savedAt: new Date().toISOString(),
        };
  }
  return { ...state, clear, forDevice };
}
