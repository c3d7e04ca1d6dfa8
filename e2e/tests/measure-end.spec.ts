import { cardOfMethod } from '@clear-mark/core';
import { SHIPPED_METHODS } from '@clear-mark/methods';
import { drawEnd, randomEndScene, rngFrom } from '@clear-mark/sim';
import { cardPicture } from '../../tools/make-ends.ts';
import { begin } from '../begin-piece.ts';
import { playing, writeColourCameraFile } from '../camera-file.ts';
import { enterDemo, expect, row, saved, testAlone as test } from '../world.ts';

const SHEET = SHIPPED_METHODS.find((m) => m.id === 'clear-mark/bench-cleave')!;
const rng = rngFrom(31);
const scene = randomEndScene(rng, {
  width: 1600,
  height: 1200,
  fault: 'none',
  tiltDeg: 9,
  rollDeg: 3,
  fills: 0.85,
  covered: -1,
});
const drawHand = async (file: string): Promise<void> =>
  writeColourCameraFile(file, drawEnd(await cardPicture(cardOfMethod(SHEET), SHEET), scene, rng));

test.use({ launchOptions: playing(drawHand) });

test('a length of an end before the camera appears by itself and is signed with the piece', async ({
  page,
  own,
  context,
}) => {
  await context.grantPermissions(['camera'], { origin: own.url });
  await enterDemo(page, own);
  await begin(page, /Bench cleave/);
  await row(page, 'cleave-length').locator('[data-test=measure-picture]').click();
  const dialog = page.getByRole('dialog').filter({ visible: true });
  await dialog.locator('[data-test=open-camera]').click();
  const value = dialog.locator('[data-test=measured]');
  await expect(value).toContainText('mm');
  const [, mm] = /^(\d+\.\d\d) mm/.exec(await value.innerText())!;
  // What the scene was drawn with, within half a millimetre: 2 megapixels, squeezed once more by the camera.
  expect(Math.abs(Number(mm) - scene.end.bufferMm)).toBeLessThan(0.5);
  await dialog.locator('[data-test=take-measured]').click();
  await expect(dialog).toHaveCount(0);
  await saved(page);
  await expect(page.locator('[data-test=measured-picture]')).toContainText(`${mm} mm ± `);
  // Far longer than the method asks for: the piece is failed by it.
  await expect(row(page, 'cleave-length')).toHaveAttribute('data-verdict', 'fail');
  await page.getByRole('button', { name: 'Sign: fail' }).click();
  await page.locator('[data-test=sign-now]').click();
  await expect(page.getByText('Signed', { exact: true })).toBeVisible();
});
