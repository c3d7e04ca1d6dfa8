import { playing, writeCameraFile } from '../camera-file.ts';
import { faceWith, speck } from '../face-pictures.ts';
import { enterDemo, expect, test } from '../world.ts';

test.use({ launchOptions: playing((file) => writeCameraFile(file, faceWith([speck(7, -30, 14)]))) });

test('a picture is taken from a live video microscope and graded', async ({ page, demo, context }) => {
  await context.grantPermissions(['camera'], { origin: demo.url });
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Faces' }).click();
  await page.getByRole('button', { name: 'Camera', exact: true }).click();
  await expect(page.locator('video')).toBeVisible();
  await page.waitForFunction(() => document.querySelector('video')!.videoWidth > 0);
  await page.getByRole('button', { name: 'Take the picture' }).click();
  await expect(page.locator('[data-test=face-verdict]')).toContainText('Fail');
  await expect(page.locator('[data-zone=B]')).toContainText(/a defect of [67]\.\d µm/);

  // Unplugged: the browser ends the track.
  await page.evaluate(() => {
    const [track] = (document.querySelector('video')!.srcObject as MediaStream).getVideoTracks();
    track!.dispatchEvent(new Event('ended'));
  });
  await expect(page.getByRole('alert')).toContainText('unplugged');
  await expect(page.locator('[data-test=face-verdict]')).toContainText('Fail');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('button', { name: 'Take the picture' })).toBeEnabled();
});

test('a refused camera is said, and a picture can be opened all the same', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await page.getByRole('link', { name: 'Faces' }).click();
  await page.getByRole('button', { name: 'Camera', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('may not use the camera');
  await expect(page.getByText('Open a picture', { exact: true })).toBeVisible();
});
