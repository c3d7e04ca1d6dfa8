import type { ChangeNotifier } from '../live/index.ts';
import { Station, type StationClock, type StationSetting, USUAL_CLOCK } from './station.ts';

/** The stations of this process, made when they are first asked for. */
export interface InstrumentHub {
  readonly station: (setting: StationSetting) => Station;
  /** Its setting changed: the next to ask gets a new one, and those who listen are told to ask again. */
  readonly forget: (thingId: string) => void;
  readonly onForgotten: (thingId: string, again: () => void) => () => void;
  readonly notifier: ChangeNotifier;
  readonly stop: () => Promise<void>;
}

export function instrumentHub(
  notifier: ChangeNotifier,
  clock: Partial<StationClock> & Pick<StationClock, 'now'>,
): InstrumentHub {
  const stations = new Map<string, Station>();
  let seq = 0;
  // Larger than any before, over a restart as well, so that one number says what a client has of all stations.
  const nextSeq = (): number => (seq = Math.max(seq + 1, clock.now().getTime() * 16));
  const forgotten = new Map<string, Set<() => void>>();
  return {
    notifier,
    station: (setting) => {
      const known = stations.get(setting.thingId);
      if (known) return known;
      const made = new Station(setting, { ...USUAL_CLOCK, nextSeq, ...clock });
      stations.set(setting.thingId, made);
      return made;
    },
    forget: (thingId) => {
      void stations.get(thingId)?.stop();
      stations.delete(thingId);
      forgotten.get(thingId)?.forEach((again) => again());
    },
    onForgotten: (thingId, again) => {
      const set = forgotten.get(thingId) ?? new Set();
      forgotten.set(thingId, set.add(again));
      return () => void set.delete(again);
    },
    stop: async () => {
      await Promise.all([...stations.values()].map((s) => s.stop()));
      stations.clear();
    },
  };
}
