import { type Channel, channelMap, explainChannel } from '@clear-mark/core';
import { rngFrom } from '@clear-mark/sim';
import { type Measured, medianOf } from './measured.ts';

const ROUNDS = 60;
const MAPS = 40;
const CHANNEL: Channel = {
  ports: 144,
  parts: [
    { kind: 'cords', crossed: true },
    { kind: 'cassette', turned: false },
    { kind: 'trunk', type: 'A' },
    { kind: 'cassette', turned: false },
    { kind: 'cords', crossed: false },
  ],
};

/** Maps of the channel with up to two faults: a turned row, a crossing, a broken fiber, another trunk, exchanged rows. */
function faultyMaps(): number[][] {
  const rng = rngFrom(11);
  const port = (): number => Math.floor(rng() * CHANNEL.ports);
  const faults: ((map: number[]) => number[])[] = [
    (map) => {
      const a = port();
      const b = port();
      return map.map((far, i) => (i === a ? map[b]! : i === b ? map[a]! : far));
    },
    (map) => {
      const dark = port();
      return map.map((far, i) => (i === dark ? 0 : far));
    },
    (map) => {
      const from = Math.floor(rng() * 12) * 12;
      return map.map((far, i) => (i >= from && i < from + 12 ? map[2 * from + 11 - i]! : far));
    },
    (map) => map.map((far, i) => (i < 12 ? map[i + 12]! : i < 24 ? map[i - 12]! : far)),
  ];
  const one = (): ((map: number[]) => number[]) => faults[Math.floor(rng() * faults.length)]!;
  return Array.from({ length: MAPS }, (_, i) => {
    const map = [...channelMap(CHANNEL)];
    return i % 3 === 0 ? one()(map) : one()(one()(map));
  });
}

/** Explaining a walked map of 144 fibers against composing the channel once. */
export function benchExplain(): Measured {
  const maps = faultyMaps();
  const time = (act: () => unknown, times: number): number => {
    const from = process.hrtime.bigint();
    for (let i = 0; i < times; i++) act();
    return Number(process.hrtime.bigint() - from) / times / 1000;
  };
  const explained = maps.map((map) => explainChannel(CHANNEL, map).cost);
  const pairs = Array.from({ length: ROUNDS }, () => ({
    compose: time(() => channelMap(CHANNEL), MAPS),
    explain: time(() => maps.forEach((map) => explainChannel(CHANNEL, map)), 1) / MAPS,
  })).slice(ROUNDS / 3);
  return {
    name: '144-fiber map with up to two faults explained / one composition',
    ratio: medianOf(pairs.map((p) => p.explain / p.compose)),
    most: 200,
    unit: 'times',
    detail: `${MAPS} maps, explained by ${Math.min(...explained)} to ${Math.max(...explained)} faults; median ${medianOf(pairs.map((p) => p.explain)).toFixed(0)} us, composition ${medianOf(pairs.map((p) => p.compose)).toFixed(1)} us`,
  };
}
