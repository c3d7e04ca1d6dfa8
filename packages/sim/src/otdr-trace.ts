import { LIGHT_M_S, type Trace } from '@clear-mark/core';
import { normal, type Rng } from './rng.ts';

/** Something on a fiber: a splice, a connector, a bend. */
export interface PlantEvent {
  readonly positionM: number;
  readonly lossDb: number;
  /** Null where it sends nothing back. */
  readonly reflectanceDb: number | null;
}
export interface Plant {
  readonly events: readonly PlantEvent[];
  readonly endM: number;
  readonly endReflectanceDb: number | null;
  readonly portReflectanceDb: number;
  readonly dbPerKm: number;
  /** From a place on the fiber sends more or less back, as another make does: the gain or loss that shows there is none. */
  readonly backscatterSteps: readonly { readonly fromM: number; readonly offsetDb: number }[];
}
export interface OtdrSettings {
  readonly wavelengthNm: number;
  readonly pulseNs: number;
  readonly groupIndex: number;
  readonly spacingM: number;
  readonly points: number;
  readonly backscatterDb: number;
  readonly averages: number;
  /** Time constant of the receiver, ns. */
  readonly receiverNs: number;
  /** Deviation of the noise of one point, dB against the light that is sent out. */
  readonly noiseDb: number;
}

const LOWEST_DB = -65.535;

/**
 * The trace that a meter would show of a plant: backscatter and reflections, and what is reflected three times, through a pulse and a
 * receiver of first order, with noise; as a file has it, the strongest point at 0. Levels are one-way (5 lg).
 */
export function simulatedTrace(plant: Plant, settings: OtdrSettings, rng: Rng): Trace {
  const { spacingM, points, pulseNs, groupIndex } = settings;
  const pulse = Math.max(1, Math.round((pulseNs * 1e-9 * LIGHT_M_S) / (2 * groupIndex) / spacingM));
  const sent = answer(plant, settings, pulse);
  const received = throughReceiver(throughPulse(sent, pulse), settings);
  const noise = 10 ** (settings.noiseDb / 10);
  const noisy = received.map((p) => p + normal(rng, 0, noise));
  const strongest = noisy.reduce((most, p) => Math.max(most, p), 0);
  const levelsDb = Float64Array.from({ length: points }, (_, i) => {
    const p = noisy[i]!;
    const level = p > 0 ? 5 * Math.log10(p / strongest) : LOWEST_DB;
    return Math.round(Math.max(LOWEST_DB, level) * 1000) / 1000;
  });
  const { wavelengthNm, backscatterDb, averages } = settings;
  return { wavelengthNm, pulseNs, groupIndex, backscatterDb, averages, firstM: 0, spacingM, levelsDb };
}

/** What an infinitely short pulse of the same energy would bring back, point by point. */
function answer(plant: Plant, settings: OtdrSettings, pulse: number): Float64Array {
  const { spacingM, points } = settings;
  const out = new Float64Array(points);
  const back = (10 ** (settings.backscatterDb / 10) * settings.pulseNs) / pulse;
  const end = Math.round(plant.endM / spacingM);
  for (let i = 0; i < Math.min(points, end); i++) {
    out[i] = back * transmission(plant, i * spacingM) ** 2 * 10 ** (offsetAt(plant, i * spacingM) / 5);
  }
  const mirrors = mirrorsOf(plant);
  const add = (atM: number, power: number): void => {
    const i = Math.round(atM / spacingM);
    if (i < points) out[i]! += power;
  };
  for (const m of mirrors) add(m.atM, m.share * m.reach ** 2);
  for (const a of mirrors) {
    for (const b of mirrors) {
      if (b.atM >= a.atM) continue;
      for (const c of mirrors) {
        if (c.atM <= b.atM) continue;
        add(
          a.atM - b.atM + c.atM,
          (a.share * b.share * c.share * a.reach ** 2 * c.reach ** 2) / b.reach ** 2,
        );
      }
    }
  }
  return out;
}

interface Mirror {
  readonly atM: number;
  readonly share: number;
  /** Share of the light that gets there. */
  readonly reach: number;
}
function mirrorsOf(plant: Plant): Mirror[] {
  const of = (atM: number, reflectanceDb: number): Mirror => ({
    atM,
    share: 10 ** (reflectanceDb / 10),
    reach: transmission(plant, atM - 1e-6),
  });
  return [
    of(0, plant.portReflectanceDb),
    ...plant.events.flatMap((e) => (e.reflectanceDb === null ? [] : [of(e.positionM, e.reflectanceDb)])),
    ...(plant.endReflectanceDb === null ? [] : [of(plant.endM, plant.endReflectanceDb)]),
  ];
}

/** Share of the light that gets to a place, one-way. */
function transmission({ events, dbPerKm }: Plant, atM: number): number {
  const lost = events.reduce((sum, e) => sum + (e.positionM <= atM ? e.lossDb : 0), (dbPerKm * atM) / 1000);
  return 10 ** (-lost / 10);
}
const offsetAt = ({ backscatterSteps }: Plant, atM: number): number =>
  backscatterSteps.reduce((offset, s) => (s.fromM <= atM ? s.offsetDb : offset), 0);

function throughPulse(sent: Float64Array, pulse: number): Float64Array {
  const out = new Float64Array(sent.length);
  let sum = 0;
  for (let i = 0; i < sent.length; i++) {
    sum += sent[i]! - (i >= pulse ? sent[i - pulse]! : 0);
    out[i] = Math.max(0, sum);
  }
  return out;
}

function throughReceiver(
  light: Float64Array,
  { spacingM, groupIndex, receiverNs }: OtdrSettings,
): Float64Array {
  const stepNs = ((2 * spacingM * groupIndex) / LIGHT_M_S) * 1e9;
  const share = 1 - Math.exp(-stepNs / receiverNs);
  let level = 0;
  return light.map((p) => (level += share * (p - level)));
}
