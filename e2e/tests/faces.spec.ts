import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { faceWith, pngOf, speck } from '../face-pictures.ts';
import { choose, enterDemo, expect, startPiece, test } from '../world.ts';

const pit = faceWith([speck(7, -30, 14)]);
const png = (name: string, buffer: Buffer) => ({ name, mimeType: 'image/png', buffer });
const engine = (page: Page) => page.locator('[data-test=face-verdict]');
const instructor = (page: Page) => page.locator('[data-test=instructor-verdict]');
const input = (page: Page) => page.locator('input[type=file]');
const toFaces = async (page: Page): Promise<void> => {
  await page.getByRole('link', { name: 'Faces' }).click();
  await expect(page.getByRole('tab', { name: 'Inspect' })).toBeVisible();
};

test('a picture is measured, graded by zones, and what is no face is refused', async ({ page, demo }) => {
  const buffer = await pngOf(pit);
  await enterDemo(page, demo);
  await toFaces(page);
  await input(page).setInputFiles(png('pit.png', buffer));
  await expect(engine(page)).toContainText('Fail');
  await expect(page.locator('[data-zone=B]')).toContainText(/a defect of [67]\.\d µm, which is not allowed/);
  await expect(page.locator('figcaption')).toContainText('0.36');
  await expect(page.locator('figcaption')).toContainText('single-mode core');
  await choose(page.getByRole('combobox', { name: 'Criteria' }), 'Multimode');
  await expect(page.locator('.notice')).toContainText('are these the right criteria');

  const refusals: [string, Buffer, RegExp][] = [
    ['notes.png', Buffer.from('only words'), /neither a PNG nor a JPEG/],
    ['drawing.png', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'), /neither a PNG nor a JPEG/],
    ['cut.png', buffer.subarray(0, 400), /broken or cut short/],
    ['bomb.png', bombOf(buffer), /more pixels than are taken/],
  ];
  for (const [name, bytes, words] of refusals) {
    await input(page).setInputFiles(png(name, bytes));
    await expect(page.getByRole('alert')).toContainText(words);
    // What was there is still there.
    await expect(page.getByRole('img', { name: 'Picture pit.png' })).toBeVisible();
  }
  const wall = sharp({ create: { width: 400, height: 300, channels: 4, background: '#888a' } });
  await input(page).setInputFiles(png('wall.png', await wall.png().toBuffer()));
  await expect(page.locator('[data-test=refused]')).toContainText('No end face');
  const dot = sharp({ create: { width: 1, height: 1, channels: 3, background: '#888' } });
  await input(page).setInputFiles(png('dot.png', await dot.png().toBuffer()));
  await expect(page.locator('[data-test=refused]')).toContainText('too small');
});

/** The same file with a head that claims 20,000 times 20,000 pixels. */
function bombOf(buffer: Buffer): Buffer {
  const bomb = Buffer.from(buffer);
  bomb.writeUInt32BE(20_000, 16);
  bomb.writeUInt32BE(20_000, 20);
  return bomb;
}

test('16-bit, colour and CMYK pictures are graded like the grey one', async ({ page, demo }) => {
  const grey = sharp(await pngOf(pit));
  const made: [string, string, Buffer][] = [
    [
      'deep.png',
      'image/png',
      await grey
        .clone()
        .toColourspace('grey16')
        .png({ bitdepth: 16 } as never)
        .toBuffer(),
    ],
    ['colour.jpg', 'image/jpeg', await grey.clone().toColourspace('srgb').jpeg({ quality: 98 }).toBuffer()],
    ['press.jpg', 'image/jpeg', await grey.clone().toColourspace('cmyk').jpeg({ quality: 98 }).toBuffer()],
  ];
  await enterDemo(page, demo);
  await toFaces(page);
  for (const [name, mimeType, buffer] of made) {
    await input(page).setInputFiles({ name, mimeType, buffer });
    await expect(page.getByRole('img', { name: `Picture ${name}` })).toBeVisible({ timeout: 30_000 });
    await expect(engine(page), name).toContainText('Fail');
    await expect(page.locator('[data-zone=B]'), name).toContainText(/a defect of [67]\.\d µm/);
  }
});

test('many pictures are graded at once, compared by their names, saved, cancelled, and one is inspected', async ({
  page,
  demo,
}) => {
  const dirty = await pngOf(faceWith([speck(7, -30, 14), speck(4, 25, 20)]));
  const clean = await pngOf(faceWith([]));
  await enterDemo(page, demo);
  await toFaces(page);
  await page.getByRole('tab', { name: 'Many pictures' }).click();
  await input(page)
    .first()
    .setInputFiles([
      png('LC-07 before.png', dirty),
      png('LC-07 after cleaning.png', await pngOf(pit)),
      png('LC-08.png', clean),
      png('broken.png', Buffer.from('only words')),
      { name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('x') },
    ]);
  const counts = page.locator('[data-test=counts]');
  await expect(counts).toHaveText(/^1 pass, 2 fail, 0 near the limit, 1 not graded\.\s*$/);
  await expect(page.getByText('Left out: one file.')).toBeVisible();
  const line = (name: string) => page.locator('.lines tr', { has: page.getByRole('button', { name }) });
  await expect(line('LC-07 after')).toContainText(
    'Cleaned since LC-07 before.png: 1 went, 1 stayed, 0 came.',
  );
  await expect(line('LC-07 before').locator('svg .mark')).toHaveCount(2);
  await expect(line('broken.png')).toContainText('neither a PNG nor a JPEG');

  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  expect(readFileSync(await file.path(), 'utf8')).toMatch(/LC-08\.png,"?Single-mode[^\r]*,pass,no,/);
  await page.emulateMedia({ media: 'print' });
  await expect(page.locator('[data-test=paper] figure')).toHaveCount(4);
  await expect(page.getByRole('button', { name: 'Save as CSV' })).toBeHidden();
  await page.emulateMedia({ media: 'screen' });

  await page.locator('.which').getByText('Not graded 1').click();
  await expect(page.locator('.lines tbody tr')).toHaveCount(1);
  await page.locator('.which').getByText('All 4').click();
  await page.getByRole('button', { name: 'LC-07 before.png' }).click();
  await expect(engine(page)).toContainText('Fail');
  await page.getByRole('tab', { name: 'Many pictures' }).click();
  await expect(counts).toHaveText(/^1 pass, 2 fail/);

  // What is graded when the work is cancelled stays.
  const more = Array.from({ length: 30 }, (_, i) => png(`more ${i}.png`, clean));
  await input(page).first().setInputFiles(more);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: 'Save as CSV' })).toBeVisible();
  await expect(counts).toHaveText(/ 2 fail, 0 near the limit, 1 not graded\.\s*$/);
});

/** Lines of a calibration slide, 25 pixels apart. */
function slidePng(): Promise<Buffer> {
  const width = 640;
  const height = 480;
  const data = Buffer.from(
    Uint8Array.from({ length: width * height }, (_, i) => {
      const off = Math.abs((((i % width) + 12) % 25) - 12);
      return Math.round(190 - 120 / (1 + Math.exp((off - 2.5) / 0.8)) + 4 * Math.sin(7.3 * i));
    }),
  );
  return sharp(data, { raw: { width, height, channels: 1 } })
    .png()
    .toBuffer();
}

test('a calibration slide gives the scale where no cladding shows, and is compared where one does', async ({
  page,
  demo,
}) => {
  await enterDemo(page, demo);
  await toFaces(page);
  const wall = sharp({ create: { width: 400, height: 300, channels: 3, background: '#888' } });
  const notAFace = png('wall.png', await wall.png().toBuffer());
  await input(page).setInputFiles(notAFace);
  await expect(page.locator('[data-test=refused]')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Ruler' })).toHaveCount(0);

  await page.getByRole('button', { name: 'Scale', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.locator('input[type=file]').setInputFiles(notAFace);
  await expect(dialog.getByRole('alert')).toContainText('No even lines');
  await dialog.locator('input[type=file]').setInputFiles(png('slide.png', await slidePng()));
  await expect(dialog.locator('[data-test=slide]')).toContainText('0.4000');
  await dialog.getByRole('button', { name: 'Use this scale' }).click();

  await page.getByRole('button', { name: 'Ruler' }).click();
  for (const x of [100, 300]) {
    const at = await page.evaluate((px) => {
      const svg = document.querySelector<SVGSVGElement>('svg[aria-label="Picture wall.png"]')!;
      const point = new DOMPoint(px, 150).matrixTransform(svg.getScreenCTM()!);
      return { x: point.x, y: point.y };
    }, x);
    await page.mouse.click(at.x, at.y);
  }
  // Half of 400 pixels at 0.4 um.
  await expect(page.locator('[data-test=ruled]')).toHaveText(/^(79\.[5-9]|80\.[0-5]) µm$/);

  await input(page)
    .first()
    .setInputFiles(png('pit.png', await pngOf(pit)));
  await expect(engine(page)).toContainText('Fail');
  await expect(page.locator('[data-test=slide-differs]')).toContainText(/1[01]\.\d % larger/);
});

test('the instructor rejects, adds, measures and decides; three verdicts side by side', async ({
  page,
  demo,
}) => {
  await enterDemo(page, demo);
  await toFaces(page);
  await input(page).setInputFiles(png('pit.png', await pngOf(pit)));
  await expect(engine(page)).toContainText('Fail');
  await page.getByRole('button', { name: 'Trainee says pass' }).click();
  await expect(page.locator('[data-test=missed]')).toContainText('A miss');

  const feature = page.locator('[data-feature]').first();
  await feature.locator('.main').click();
  await feature.getByRole('button', { name: 'Reject' }).click();
  await expect(instructor(page)).toContainText('Pass');
  await expect(engine(page)).toContainText('Fail');
  await expect(page.locator('[data-test=missed]')).toHaveCount(0);

  // 36 um across the core by two taps, with the ruler and then as a defect.
  const place = async (xUm: number): Promise<void> => {
    const at = await page.evaluate((um) => {
      const svg = document.querySelector<SVGSVGElement>('svg[role=img][aria-label^="Picture"]')!;
      const point = new DOMPoint(331.4 + um / 0.36, 236.2).matrixTransform(svg.getScreenCTM()!);
      return { x: point.x, y: point.y };
    }, xUm);
    await page.mouse.click(at.x, at.y);
  };
  await page.getByRole('button', { name: 'Ruler' }).click();
  await place(-18);
  await place(18);
  await expect(page.locator('[data-test=ruled]')).toHaveText(/^3[56]\.\d µm$/);
  await page.getByRole('button', { name: 'Add a defect' }).click();
  await place(20);
  await place(26);
  await expect(instructor(page)).toContainText('Fail');
  await expect(page.locator('[data-zone=B]')).toContainText(/a defect of (5\.9|6\.0|6\.1) µm/);

  await page.getByRole('button', { name: 'Decide otherwise' }).click();
  await page.getByLabel('Why is it a pass?').fill('wiped off at the second look');
  await page.getByRole('button', { name: 'It is a pass' }).click();
  await expect(instructor(page)).toContainText('Pass');
  await expect(page.getByText('wiped off at the second look')).toBeVisible();

  await page.locator('[data-test=keep]').click();
  await expect(page.locator('[data-test=keep]')).toHaveText('Kept');
  // Opened again it is as it was left.
  await page.reload();
  await page.locator('.kept .tile', { hasText: 'pit.png' }).first().click();
  await expect(instructor(page)).toContainText('Pass');
  await expect(engine(page)).toContainText('Fail');
  await expect(page.getByRole('button', { name: 'Trainee says pass' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
});

test('a picture is kept with the attempt and seen on its sheet', async ({ page, demo }) => {
  await enterDemo(page, demo);
  const attemptId = await startPiece(page, 'Oyelaran Tidewell');
  await page.getByRole('link', { name: 'Look at its end face' }).click();
  await input(page).setInputFiles(png('end.png', await pngOf(pit)));
  await expect(engine(page)).toContainText('Fail');
  await expect(page.locator('.keep .choice')).toContainText('Oyelaran Tidewell');
  await page.locator('[data-test=keep]').click();
  await expect(page.locator('[data-test=keep]')).toHaveText('Kept');
  await page.goto(page.url().replace(/faces.*/, `sheet/${attemptId}`));
  const kept = page.getByRole('group', { name: 'Pictures of its end faces' });
  await expect(kept).toContainText('Fail');
  await kept.getByRole('link', { name: 'Fail' }).click();
  await expect(page.getByRole('img', { name: 'Picture end.png' })).toBeVisible();
});

test('before and after cleaning: what went and what stayed', async ({ page, demo }) => {
  const dust = [speck(9, 25, -20), speck(6, -15, 35)];
  await enterDemo(page, demo);
  await toFaces(page);
  await input(page).setInputFiles(png('before.png', await pngOf(faceWith([speck(7, -30, 14), ...dust]))));
  await expect(engine(page)).toContainText('Fail');
  await page.locator('[data-test=keep]').click();
  await page.getByRole('button', { name: 'The next picture is this face after cleaning' }).click();
  await input(page).setInputFiles(png('after.png', await pngOf(faceWith([speck(7, -30, 14)], 5))));
  await expect(page.locator('[data-test=since]')).toContainText('2 went, 1 stayed, 0 came');
  await page.locator('[data-test=keep]').click();
  await expect(page.locator('.kept .tile').first()).toContainText('after cleaning');
});

test('the page answers while a large picture is measured, and cancelling leaves it as it was', async ({
  page,
  demo,
}) => {
  const large = await sharp(await pngOf(pit))
    .resize(2560, 1920, { kernel: 'cubic' })
    .png()
    .toBuffer();
  await enterDemo(page, demo);
  await toFaces(page);
  // A page that measures itself would not count on while it does.
  await page.evaluate(() => {
    const counts = { while: 0 };
    (window as never as { counts: typeof counts }).counts = counts;
    setInterval(() => {
      if (document.querySelector('[role=status]')) counts.while += 1;
    }, 5);
  });
  await input(page).setInputFiles(png('large.png', large));
  await expect(engine(page)).toContainText('Fail');
  const counts = await page.evaluate(() => (window as never as { counts: { while: number } }).counts);
  expect(counts.while).toBeGreaterThan(10);
  await input(page).setInputFiles(png('again.png', large));
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('status')).toHaveCount(0);
});

test('a row of fibers is graded fiber by fiber, from the simulated scope', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await toFaces(page);
  await page.getByRole('button', { name: 'Simulated scope' }).click();
  await choose(page.getByLabel('Fiber', { exact: true }), 'Row of six');
  await page.getByRole('button', { name: 'Next end' }).click();
  await expect(page.locator('[data-fiber="6"]')).toBeVisible({ timeout: 60_000 });
  await expect(page.locator('[data-fiber]')).toHaveCount(6);
});

test('the class’s own table of criteria is a new version and is graded by', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await toFaces(page);
  await page.getByRole('tab', { name: 'Zone criteria' }).click();
  await page.getByRole('button', { name: 'Multimode', exact: true }).click();
  await page.getByRole('button', { name: 'Make our own copy' }).click();
  const largest = page.getByLabel('Zone B, defects, to').nth(1);
  await largest.fill('wide');
  await largest.press('Enter');
  await expect(page.getByRole('alert')).toContainText('not a size');
  await largest.fill('8');
  await largest.press('Enter');
  await page.getByRole('button', { name: 'Save as the next version' }).click();
  await expect(page.getByRole('button', { name: /Multimode, our copy/ })).toContainText('version 1');
  await page.getByRole('tab', { name: 'Inspect' }).click();
  await choose(page.getByRole('combobox', { name: 'Criteria' }), 'Multimode, our copy');
  await input(page).setInputFiles(png('pit.png', await pngOf(faceWith([speck(7, -42, 14)]))));
  // 7 um in zone B: too large by the shipped table, allowed by this one.
  await expect(engine(page)).toContainText('Pass');
});
