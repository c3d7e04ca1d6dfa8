import { pulseMetres, type Trace } from '@clear-mark/core';
import { type OtdrSettings, type Plant, type PlantEvent, simulatedTrace } from './otdr-trace.ts';
import { chance, type Rng } from './rng.ts';

/** A meter as it is set for links of some kilometres: 30 ns, half a metre a point. */
export const USUAL_METER: OtdrSettings = {
  wavelengthNm: 1310,
  pulseNs: 30,
  groupIndex: 1.4677,
  spacingM: 0.5,
  points: 8000,
  backscatterDb: -79.5,
  averages: 65_536,
  receiverNs: 2.4,
  noiseDb: -98,
};

/** Two to six splices and connectors at least `apartM` from each other, each of 0.1 to 0.6 dB, and an end that reflects or does not. */
export function randomPlant(rng: Rng, apartM: number): Plant {
  const count = 2 + Math.floor(rng() * 5);
  const events: PlantEvent[] = [];
  let atM = apartM * (1.5 + rng());
  for (let i = 0; i < count; i++) {
    const reflects = chance(rng, 0.6);
    events.push({
      positionM: Math.round(atM * 2) / 2,
      lossDb: 0.1 + 0.5 * rng(),
      reflectanceDb: reflects ? -55 + 12 * rng() : null,
    });
    atM += apartM * (1 + rng());
  }
  return {
    events,
    endM: Math.round(atM * 2) / 2,
    endReflectanceDb: chance(rng, 0.7) ? -50 + 30 * rng() : null,
    portReflectanceDb: -50,
    dbPerKm: 0.33,
    backscatterSteps: [],
  };
}

/** Metres that a series' launch cord may be long. */
const LAUNCH_M = [200, 300, 500] as const;

/** A trace for practice: cords at both ends, some splices and connectors, now and then a strong reflection and its ghost. */
export function seriesTrace(rng: Rng): Trace {
  const pulseNs = [10, 30, 100][Math.floor(rng() * 3)]!;
  const settings = { ...USUAL_METER, pulseNs, points: 6000, noiseDb: -97 - 5 * rng() };
  const plant = randomPlant(rng, 90 + 10 * pulseMetres(settings));
  const launchM = LAUNCH_M[Math.floor(rng() * LAUNCH_M.length)]!;
  const first: PlantEvent = {
    positionM: launchM,
    lossDb: 0.12 + 0.3 * rng(),
    reflectanceDb: -52 + 6 * rng(),
  };
  const strong = chance(rng, 0.4);
  const events = plant.events
    .map((e) => ({ ...e, positionM: e.positionM + launchM }))
    .map((e, i) => (strong && i === 0 ? { ...e, reflectanceDb: -24 } : e));
  const sound = chance(rng, 0.5);
  return simulatedTrace(
    {
      ...plant,
      portReflectanceDb: strong ? -22 : -50,
      // Half of the plants are sound: what is drawn is mostly over the limit of a splice.
      events: [first, ...events.map((e) => (sound ? { ...e, lossDb: 0.1 + 0.12 * rng() } : e))],
      endM: plant.endM + launchM,
    },
    settings,
    rng,
  );
}
