import type { OtdrSettings, Plant, PlantEvent } from './otdr-trace.ts';
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
