import { createHash } from 'node:crypto';
import { faceCriteria, type FaceFault, gradeFace, measureFace, NO_REVIEW } from '@clear-mark/core';
import type { DemoData } from '@clear-mark/demo';
import { randomFace, randomScene, rngFrom, shuffled, stateOfEnd } from '@clear-mark/sim';
import { type Database, engineSays, storesForLoading } from '@clear-mark/server';
import sharp from 'sharp';
import { v7 } from 'uuid';

const PICTURES = 10;
const SERIES = 'First look';
const PC = faceCriteria('sm-pc')!;

type DemoAttempt = DemoData['attempts'][number];
type End = Parameters<typeof stateOfEnd>[0];

/**
 * Pictures of the newest pieces, drawn as the end of each is by its sheet, measured and kept with their attempts; the same
 * pictures as a series that nobody has called yet.
 */
export async function loadFaces(trx: Database, data: DemoData, seed: number): Promise<void> {
  const { faces, calls } = storesForLoading(trx);
  const by = data.people.find((p) => p.role === 'instructor')!.id;
  const kept: { id: string; verdict: 'pass' | 'fail'; faults: FaceFault[] }[] = [];
  for (const [i, { attempt, end }] of chosen(data).entries()) {
    const rng = rngFrom(seed + 5003 * (i + 1));
    const umPerPx = 0.31 + 0.05 * rng();
    // The class works on single-mode fiber.
    const { core } = randomScene(rng);
    const scene = { width: 640, height: 480, umPerPx, core: { ...core, radiusUm: 4.5 } };
    const face = randomFace(rng, scene, stateOfEnd(end, rng));
    const raw = { width: face.width, height: face.height, channels: 1 as const };
    const bytes = await sharp(Buffer.from(face.data), { raw }).png().toBuffer();
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    await faces.putPicture(data.classId, sha256, 'image/png', bytes, by);
    const engine = measureFace(face, PC);
    const id = v7();
    const faults = [...new Set(face.features.map((f) => f.look))];
    await faces.insert(
      data.classId,
      {
        id,
        sha256,
        label: attempt.pieceLabel,
        width: face.width,
        height: face.height,
        view: 'single',
        source: 'stand_in',
        takenAt: attempt.startedAt,
        attemptId: attempt.id,
        traineeId: attempt.traineeId,
        beforeId: null,
        engine,
        faults,
        table: PC,
      },
      { at: attempt.startedAt, claimed: null },
      engineSays(engine, PC),
      by,
    );
    const verdict = gradeFace(face.features, PC).verdict;
    if (i % 3 === 0) {
      const look = { id: v7(), review: NO_REVIEW, traineeSaid: 'pass', verdict } as const;
      await faces.addGrading(id, look, by, new Date(attempt.startedAt));
    }
    kept.push({ id, verdict, faults });
  }
  const bad = kept.filter((k) => k.verdict === 'fail').length;
  if (bad < 2 || kept.length - bad < 2) return;
  await calls.insert(
    { id: v7(), classId: data.classId, label: SERIES, missWeight: 3, secondsEach: 60, madeBy: by },
    shuffled(rngFrom(seed), kept).map((k, position) => ({
      position,
      faceId: k.id,
      reference: k.verdict,
      faults: k.faults,
    })),
  );
}

/** The newest pieces of each kind of end, so that not all of them are clean ones. */
function chosen(data: DemoData): { attempt: DemoAttempt; end: End }[] {
  const ends = data.attempts.flatMap((attempt) => {
    const entry = attempt.entries.filter((e) => e.criterionId?.endsWith('/end-face')).pop();
    return entry?.value?.kind === 'grade' ? [{ attempt, end: entry.value.level as End }] : [];
  });
  const newest = ends.sort((a, b) => (a.attempt.startedAt < b.attempt.startedAt ? 1 : -1));
  const flawed = newest.filter((e) => e.end !== 'clean').slice(0, PICTURES / 2);
  const clean = newest.filter((e) => e.end === 'clean').slice(0, PICTURES - flawed.length);
  return [...flawed, ...clean].sort((a, b) => (a.attempt.startedAt < b.attempt.startedAt ? -1 : 1));
}
