import { createHash } from 'node:crypto';
import { crc32, deflateSync } from 'node:zlib';
import { faceCriteria, type FaceFeature, gradeFace, type MeasuredFace } from '@clear-mark/core';
import { v7 } from 'uuid';
import type { Caller } from './harness.ts';

const chunk = (type: string, data: Buffer): Buffer => {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const length = Buffer.alloc(4);
  const sum = Buffer.alloc(4);
  length.writeUInt32BE(data.length);
  sum.writeUInt32BE(crc32(body));
  return Buffer.concat([length, body, sum]);
};

/** A whole grey PNG of 640 x 480 with some words in it, so that each is another picture. */
export function pngOf(mark: string, width = 640, height = 480): Buffer {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head[8] = 8;
  return Buffer.concat([
    Buffer.from('89504e470d0a1a0a', 'hex'),
    chunk('IHDR', head),
    chunk('tEXt', Buffer.from(`mark\0${mark}`, 'latin1')),
    chunk('IDAT', deflateSync(Buffer.alloc(Math.min(height * (width + 1), 4_000_000)))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}
export const digestOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

export const TABLE = faceCriteria('sm-pc')!;

export function measured(features: readonly FaceFeature[]): MeasuredFace {
  return {
    ok: true,
    umPerPx: 0.3,
    centrePx: [320, 240],
    claddingDiameterPx: 416.7,
    blurUm: 0.4,
    contactSeen: 1,
    core: { class: 'single_mode', radiusUm: 4.4 },
    features: features.map((f) => ({ ...f, uncertaintyUm: 0.2, areaUm2: 10, contrast: 9, outlineUm: [] })),
    grade: gradeFace(features, TABLE),
  };
}
export const pit = (sizeUm: number, xUm: number): FaceFeature => ({
  kind: 'defect',
  sizeUm,
  xUm,
  yUm: 0,
  nearestUm: Math.max(0, xUm - sizeUm / 2),
  farthestUm: xUm + sizeUm / 2,
});

/** What is sent to keep a picture as a face, for a picture that is there under its digest. */
export const faceBody = (sha256: string, more: object = {}) => ({
  id: v7(),
  sha256,
  label: 'Face',
  width: 640,
  height: 480,
  view: 'single',
  source: 'file',
  takenAt: new Date().toISOString(),
  attemptId: null,
  traineeId: null,
  beforeId: null,
  table: TABLE,
  engine: measured([]),
  faults: [],
  ...more,
});

/** Sends a picture and keeps it as a face; returns its id. */
export async function keepFace(
  caller: Caller,
  classId: string,
  features: readonly FaceFeature[],
  more: object = {},
): Promise<string> {
  const id = v7();
  const bytes = pngOf(id);
  const put = await caller.bytes('PUT', `/classes/${classId}/face-blobs/${digestOf(bytes)}`, bytes);
  if (put.status !== 200) throw new Error(`picture: ${put.status}`);
  const body = faceBody(digestOf(bytes), { id, engine: measured(features), ...more });
  const reply = await caller.post(`/classes/${classId}/faces`, body);
  if (reply.status !== 200) throw new Error(reply.problem.code);
  return id;
}
