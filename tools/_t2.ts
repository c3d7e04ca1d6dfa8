import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { crossProfile, isCoated } from '../packages/core/src/side-view/cross-profile.ts';
import { findFibers } from '../packages/core/src/side-view/find-fibers.ts';
import { fitFiberEdges, middleAt } from '../packages/core/src/side-view/fiber-edges.ts';
import { fitFaceLine } from '../packages/core/src/side-view/face-line.ts';
const D = '/work/main/../shared/camera/cleaves/';
const T = JSON.parse(readFileSync(D + 'truth.json', 'utf8')).pictures;
const errs: number[] = [];
for (const t of T) {
  const g = await sharp(D + 'images/' + t.file)
    .flatten()
    .toColourspace('b-w')
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  const image = { width: g.info.width, height: g.info.height, data: new Uint8Array(g.data) };
  const t0 = performance.now();
  const f = findFibers(image);
  if (typeof f === 'string') {
    console.log(t.file, t.ok, t.reason ?? '', 'REFUSED', f, t.fibers.map((x: any) => x.class).join());
    continue;
  }
  for (const r of f.fibers) {
    const tr = t.fibers.find((x: any) => x.side === r.side);
    let e = fitFiberEdges(image, r.side, r.end, r.width, r.middle, f.border, Math.max(5 * f.spread, 12));
    if (e) {
      const e0 = e;
      e =
        fitFiberEdges(
          image,
          r.side,
          r.end,
          e.width,
          (x) => middleAt(e0, x),
          f.border,
          Math.max(5 * f.spread, 0.2 * (e.light - e.dark)),
        ) ?? e0;
    }
    if (!e) {
      console.log(
        t.file,
        r.side,
        'no edges',
        tr?.class,
        r.width,
        r.end,
        r.middle(r.end),
        tr?.end_px,
        f.spread,
        f.border,
      );
      continue;
    }
    const cp = crossProfile(image, e);
    const l = fitFaceLine(image, e, r.gap, Math.max(5 * f.spread, 0.15 * (e.light - e.dark)), cp.bright);
    const ang = l ? Math.atan(l.slope) * 57.29578 : NaN;
    const sc = tr ? tr && (125 / e.width / t.scale_um_per_px - 1) * 100 : NaN;
    const ax = Math.atan(e.slope) * 57.29578;
    if (tr?.measurable && l && !t.optics.screen) errs.push(Math.abs(ang - tr.image_angle_deg));
    console.log(
      isCoated(cp, e.light) ? 'COATED' : '',
      cp.bright.toFixed(2),
      t.file,
      r.side,
      tr?.class ?? 'NOT ' + t.reason,
      tr
        ? `end ${(r.end - tr.end_px[0]).toFixed(1)}px ang ${ang.toFixed(3)} true ${tr.image_angle_deg} err ${(ang - tr.image_angle_deg).toFixed(3)} axis ${(ax - tr.axis_angle_deg).toFixed(3)} bend ${e.bend !== 0} scale ${sc.toFixed(2)}% w ${e.width.toFixed(0)} sd ${(l ? Math.atan(l.slopeSd) * 57.3 : NaN).toFixed(3)}/${(e.slopeSd * 57.3).toFixed(3)} on ${l?.onLine.toFixed(2)} sp ${l?.spread.toFixed(2)}`
        : '',
      (performance.now() - t0).toFixed(0) + 'ms',
    );
  }
}
errs.sort((a, b) => a - b);
console.log('n', errs.length, 'median', errs[errs.length >> 1], 'p95', errs[Math.floor(errs.length * 0.95)]);
