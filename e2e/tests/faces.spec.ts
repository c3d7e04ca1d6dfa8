import { randomDefect, randomScene, renderFace, rngFrom } from '@clear-mark/sim';
import sharp from 'sharp';
import { enterDemo, expect, test } from '../world.ts';

const SCENE = { width: 640, height: 480, umPerPx: 0.36, centre: [331.4, 236.2] as const };

test('a picture is measured, graded by zones, and what is no face is refused', async ({ page, demo }) => {
  const rng = rngFrom(4);
  const scene = randomScene(rng, { ...SCENE, core: { radiusUm: 4.5, level: 160 } });
  const face = renderFace(scene, [randomDefect(rng, 7, -70, [-30, 14])], rng);
  const raw = { width: face.width, height: face.height, channels: 1 as const };
  const buffer = await sharp(Buffer.from(face.data), { raw }).png().toBuffer();
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Faces' }).click();
  const open = page.locator('input[type=file]');
  await open.setInputFiles({ name: 'pit.png', mimeType: 'image/png', buffer });
  await expect(page.locator('[data-test=face-verdict]')).toContainText('Fail', { timeout: 30_000 });
  await expect(page.locator('tr', { hasText: 'B' }).first()).toContainText(
    /a defect of [67]\.\d µm, which is not allowed/,
  );
  await expect(page.getByText('0.36')).toBeVisible();
  await page.getByLabel('Criteria').selectOption('mm');
  await expect(page.locator('[data-test=face-verdict]')).toContainText('Fail', { timeout: 30_000 });

  await open.setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('only words') });
  await expect(page.getByRole('alert')).toContainText('neither a PNG nor a JPEG');
  await open.setInputFiles({ name: 'cut.png', mimeType: 'image/png', buffer: buffer.subarray(0, 200) });
  await expect(page.getByRole('alert')).toContainText('broken or cut short');
  const wall = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#888' } })
    .png()
    .toBuffer();
  await open.setInputFiles({ name: 'wall.png', mimeType: 'image/png', buffer: wall });
  await expect(page.locator('[data-test=refused]')).toContainText('No end face');
});
