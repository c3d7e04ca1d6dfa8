import { LC_WEDGE_LOCATOR } from '@clear-mark/methods';
import qrcode from 'qrcode-generator';
import { playing, writeCameraFile } from '../camera-file.ts';
import { enterDemo, expect, test } from '../world.ts';

const WIDTH = 640;
const HEIGHT = 480;

/** A label held before the camera: its code in the middle of a grey picture. */
function labelBefore(text: string): { width: number; height: number; data: Uint8Array } {
  const code = qrcode(0, 'L');
  code.addData(text);
  code.make();
  const modules = code.getModuleCount();
  const side = 6;
  const quiet = 4 * side;
  const left = Math.round((WIDTH - modules * side) / 2);
  const top = Math.round((HEIGHT - modules * side) / 2);
  const data = new Uint8Array(WIDTH * HEIGHT).fill(120);
  for (let y = -quiet; y < modules * side + quiet; y++) {
    for (let x = -quiet; x < modules * side + quiet; x++) {
      const row = Math.floor(y / side);
      const column = Math.floor(x / side);
      const inside = row >= 0 && column >= 0 && row < modules && column < modules;
      data[(top + y) * WIDTH + left + x] = inside && code.isDark(row, column) ? 30 : 220;
    }
  }
  return { width: WIDTH, height: HEIGHT, data };
}

const { id, version, title } = LC_WEDGE_LOCATOR;
const label = `clear-mark:method:${id}:${version}`;

test.use({ launchOptions: playing((file) => writeCameraFile(file, labelBefore(label))) });

test('a card that is held before the camera opens its method', async ({ page, demo, context, problems }) => {
  await context.grantPermissions(['camera'], { origin: demo.url });
  await enterDemo(page, demo);
  await page.getByRole('button', { name: 'Find' }).click();
  await page.getByRole('button', { name: 'Scan a label with the camera' }).click();
  await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible();
  await expect(page.getByRole('dialog')).toBeHidden();
  expect(problems).toEqual([]);
});

test('a camera that may not be used is said, and finding by typing goes on', async ({ page, demo }) => {
  await enterDemo(page, demo);
  await page.getByRole('button', { name: 'Find' }).click();
  await page.getByRole('button', { name: 'Scan a label with the camera' }).click();
  await expect(page.getByRole('alert')).toContainText('may not use the camera');
  await page.getByLabel('Trainee, piece, method, place or act').fill('Records');
  await expect(page.getByRole('option').first()).toContainText('Records');
});
