import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { crossProfile, isCoated } from '../packages/core/src/side-view/cross-profile.ts';
import { findFibers } from '../packages/core/src/side-view/find-fibers.ts';
import { fitFiberEdges, middleAt } from '../packages/core/src/side-view/fiber-edges.ts';
import { fitFaceLine } from '../packages/core/src/side-view/face-line.ts';
const D = '/work/main/../shared/camera/cleaves/';
const T = JSON.parse(readFileSync(D + 'truth.json', 'utf8')).pictures;
for (const arg of process.argv.slice(2)) {
  const name = arg.slice(0, 4),
    side = arg[4] === 'L' ? 'left' : 'right';
  const t = T.find((x: any) => x.file.startsWith(name));
  const g = await sharp(D + 'images/' + t.file)
    .flatten()
    .toColourspace('b-w')
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  const image = { width: g.info.width, height: g.info.height, data: new Uint8Array(g.data) };
  const f = findFibers(image);
  if (typeof f === 'string') continue;
  const r = f.fibers.find((x) => x.side === side)!;
  const tr = t.fibers.find((x: any) => x.side === side);
  let e = fitFiberEdges(image, r.side, r.end, r.width, r.middle, f.border, 12)!;
  const e0 = e;
  e =
    fitFiberEdges(
      image,
      r.side,
      r.end,
      e.width,
      (x) => middleAt(e0, x),
      f.border,
      0.2 * (e.light - e.dark),
    ) ?? e0;
  const cp = crossProfile(image, e);
  const l = fitFaceLine(image, e, r.gap, Math.max(5 * f.spread, 0.15 * (e.light - e.dark)), cp.bright);
  if (!l) {
    console.log(arg, 'no line');
    continue;
  }
  const sl = Math.tan(tr.image_angle_deg / 57.29578);
  const um = 125 / e.width;
  const rr = l.rows.filter((x) => x.u !== null).map((x) => ({ v: x.v / l.half, r: (x.u! - sl * x.v) * um }));
  const md = [...rr].map((x) => x.r).sort((a, b) => a - b)[rr.length >> 1]!;
  const out: string[] = [];
  for (let b = -1; b < 1; b += 0.05) {
    const q = rr.filter((x) => x.v >= b && x.v < b + 0.05);
    out.push(q.length ? (q.reduce((s, x) => s + x.r - md, 0) / q.length).toFixed(1) : '..');
  }
  console.log(arg, tr.class, JSON.stringify(tr.defects), 'gap', r.gap, 'w', e.width.toFixed(0));
  console.log('  bottom', out.join(' '), 'top');
}
