import { BENCH_INSTRUMENTS, SCENARIO } from '@clear-mark/demo';
import { type Database, storesForLoading } from '@clear-mark/server';
import type { InstrumentKind } from '@clear-mark/contract';
import { type RunningStandIns, STAND_INS, type StandInName, startStandIns } from '@clear-mark/standins';

const KINDS: Readonly<Record<StandInName, InstrumentKind>> = {
  source: 'source',
  meter: 'power_meter',
  splicer: 'splicer',
  ports: 'port_light',
  otdr: 'otdr',
};
const DAY_MS = 86_400_000;

/** Tells the demo class where its simulated instruments answer: their ports are new at every start. */
export async function connectStandIns(db: Database, running: RunningStandIns, now: Date): Promise<void> {
  const classId: string | undefined = (
    await db('classes').where({ name: SCENARIO.className }).pluck('id')
  )[0];
  if (classId === undefined) return;
  const { instruments } = storesForLoading(db);
  const day = (days: number): string => new Date(now.getTime() + days * DAY_MS).toISOString().slice(0, 10);
  for (const name of STAND_INS) {
    const label = BENCH_INSTRUMENTS[name];
    const thingId: string | undefined = (
      await db('things').where({ class_id: classId, label }).pluck('id')
    )[0];
    if (thingId === undefined) continue;
    await instruments.save(classId, thingId, {
      kind: KINDS[name],
      host: '127.0.0.1',
      port: running.instruments[name].port,
      readingsPerSecond: name === 'meter' ? 5 : 2,
      calibratedOn: day(-200),
      // The port light has gone over its date, so that the warning can be seen.
      calibrationDueOn: day(name === 'ports' ? -12 : 165),
    });
  }
}

/** Simulated instruments alone, all or those named, until they are told to stop. */
export async function runStandIns(args: readonly string[]): Promise<number> {
  const unknown = args.filter((a) => !STAND_INS.some((n) => n === a));
  if (unknown.length > 0) {
    console.error(`No stand-in ${unknown.join(', ')}; there are ${STAND_INS.join(', ')}.`);
    return 2;
  }
  const names = args.length === 0 ? STAND_INS : STAND_INS.filter((n) => args.includes(n));
  const running = await startStandIns(Date.now() % 100_000, names);
  for (const name of names) console.log(`${name.padEnd(8)} 127.0.0.1:${running.instruments[name].port}`);
  console.log(`control  http://127.0.0.1:${running.controlPort}`);
  console.log(
    'Each line speaks SCPI; the control takes acts on the piece as JSON by POST. Ctrl-C stops them.',
  );
  await new Promise<void>((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, () => resolve());
  });
  await running.stop();
  return 0;
}
