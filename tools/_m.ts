import { readFileSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { measureCleave } from '../packages/core/src/side-view/measure-cleave.ts';
const D = '/work/main/../shared/camera/cleaves/';
const M = JSON.parse(readFileSync(D + 'manifest.json', 'utf8')).pictures;
const T = JSON.parse(readFileSync(D + 'truth.json', 'utf8')).pictures;
const out: any[] = [];
for (const { file } of M) {
  const g = await sharp(D + 'images/' + file)
    .flatten()
    .toColourspace('b-w')
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  const r = measureCleave({ width: g.info.width, height: g.info.height, data: new Uint8Array(g.data) });
  const t = T.find((x: any) => x.file === file);
  if (!r.ok) {
    out.push({ file, ok: false, reason: r.reason });
    console.log(file, 'REFUSED', r.reason, '|', t.ok, t.reason);
    continue;
  }
  out.push({
    file,
    ok: true,
    scale_um_per_px: r.umPerPx,
    u_scale_um_per_px: r.umPerPxSd,
    fibers: r.ends.map((e) => ({
      side: e.side,
      angle_deg: e.angleDeg,
      u_deg: e.angleSd,
      class: e.class,
      dirty: e.isDirty,
    })),
  });
  for (const e of r.ends) {
    const f = t.fibers.find((x: any) => x.side === e.side);
    const s = e.signs;
    console.log(
      f?.class === e.class ? '  ' : 'X ',
      file,
      e.side,
      'true',
      f?.class,
      'got',
      e.class,
      e.isDirty === f?.dirty ? '' : 'DIRT?' + e.isDirty,
      `off ${s.offShare.toFixed(2)} lip ${s.lip.widthUm.toFixed(1)}/${s.lip.heightUm.toFixed(1)} chip ${s.chip.widthUm.toFixed(1)}/${s.chip.depthUm.toFixed(1)} rough ${s.roughUm.toFixed(2)}/${s.smoothUm.toFixed(2)} sw ${s.swingUm.toFixed(1)}`,
      f
        ? `err ${((e.angleDeg ?? NaN) - f.image_angle_deg).toFixed(3)} u ${e.angleSd?.toFixed(3)} scale ${((r.umPerPx / t.scale_um_per_px - 1) * 100).toFixed(2)}%`
        : 'NOT A FIBER ' + t.reason,
    );
  }
}
writeFileSync('/tmp/pf/cs/res.json', JSON.stringify(out));
