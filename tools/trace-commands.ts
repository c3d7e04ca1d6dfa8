import { mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { pulseMetres, sorOfTrace, writeSor } from '@clear-mark/core';
import { randomPlant, rngFrom, simulatedTrace, USUAL_METER } from '@clear-mark/sim';
import { readTraceFolder } from './read-trace-folder.ts';

const READ_USAGE = './clear-mark read-traces FOLDER --out FOLDER';
const MAKE_USAGE = './clear-mark make-traces FOLDER [--count 20] [--seed 1]';
const MOST = 10_000;
const PULSES_NS = [10, 30, 100] as const;

/** Reads every trace file of a folder, a JSON file each. Exit code 0 when all could be read, 1 when one could not, 2 for a wrong call. */
export async function runReadTraces(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { out: { type: 'string' } },
  });
  const [folder] = positionals;
  if (positionals.length !== 1 || values.out === undefined || !isFolder(folder!)) {
    console.error(READ_USAGE);
    return 2;
  }
  mkdirSync(values.out, { recursive: true });
  const files = readdirSync(folder!)
    .filter((name) => /\.(sor|trace\.csv|trace\.json)$/i.test(name))
    .sort();
  const refused = await readTraceFolder({ folder: folder!, files, out: values.out });
  console.log(`${files.length} trace files: ${files.length - refused} read, ${refused} refused`);
  return refused === 0 ? 0 : 1;
}

const isFolder = (name: string): boolean => statSync(name, { throwIfNoEntry: false })?.isDirectory() === true;

/** Writes simulated trace files with what is on them. Exit code 2 for a wrong call. */
export async function runMakeTraces(args: readonly string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { count: { type: 'string' }, seed: { type: 'string' } },
  });
  const count = Number(values.count ?? '20');
  const seed = Number(values.seed ?? '1');
  const [folder] = positionals;
  const wrong = !Number.isInteger(count) || count < 1 || count > MOST || !Number.isInteger(seed) || seed < 0;
  if (positionals.length !== 1 || wrong) {
    console.error(MAKE_USAGE);
    return 2;
  }
  mkdirSync(folder!, { recursive: true });
  for (let i = 0; i < count; i++) makeTrace(folder!, i, seed);
  console.log(`${count} traces in ${folder!}`);
  return 0;
}

function makeTrace(folder: string, i: number, seed: number): void {
  const rng = rngFrom(seed * 100_003 + i);
  const settings = { ...USUAL_METER, pulseNs: PULSES_NS[i % PULSES_NS.length]!, noiseDb: -97 - 6 * rng() };
  const plant = randomPlant(rng, 120 + 10 * pulseMetres(settings));
  const trace = simulatedTrace(plant, settings, rng);
  const name = `trace-${String(i + 1).padStart(4, '0')}`;
  const labels = {
    cableId: 'Practice',
    fiberId: String(i + 1),
    from: 'A',
    to: 'B',
    operator: '',
    comment: name,
  };
  const ends = [plant.events[0]!.positionM, plant.events.at(-1)!.positionM];
  const file = sorOfTrace(trace, { ...labels, takenAtS: 0 }, [], ends);
  writeFileSync(path.join(folder, `${name}.sor`), writeSor(file));
  const truth = {
    file: `${name}.sor`,
    pulse_ns: settings.pulseNs,
    noise_db: settings.noiseDb,
    db_per_km: plant.dbPerKm,
    events: [
      ...plant.events.map((e) => ({
        position_m: e.positionM,
        kind: e.reflectanceDb === null ? 'non_reflective' : 'reflective',
        loss_db: e.lossDb,
        reflectance_db: e.reflectanceDb,
      })),
      { position_m: plant.endM, kind: 'end', loss_db: null, reflectance_db: plant.endReflectanceDb },
    ],
  };
  writeFileSync(path.join(folder, `${name}.truth.json`), `${JSON.stringify(truth, null, 2)}\n`);
}
