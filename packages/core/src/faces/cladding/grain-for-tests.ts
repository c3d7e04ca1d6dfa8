import { numbers } from '../../numbers-for-tests.ts';
import type { GreyImage } from '../pixels/image.ts';

const WIDTH = 640;
const HEIGHT = 480;
export const RIM = { x: 330, y: 232, r: 120 };

/** Ferrule of a grain, glass of the same light, and a line of adhesive that the light shows on one side only. */
export function slanting(seed: number, grain: number, ring: number): GreyImage {
  const next = numbers(seed);
  const noise = (): number => next() + next() + next() + next() - 2;
  // Grain as of a ground surface: noise that is alike over a few pixels.
  const coarse = Float32Array.from({ length: WIDTH * HEIGHT }, noise);
  const data = new Uint8Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      let rough = 0;
      for (let dy = -2; dy <= 2; dy++)
        for (let dx = -2; dx <= 2; dx++)
          rough += coarse[((y + dy + HEIGHT) % HEIGHT) * WIDTH + ((x + dx + WIDTH) % WIDTH)]! / 5;
      const dx = x - RIM.x;
      const dy = y - RIM.y;
      const d = Math.hypot(dx, dy);
      const outside = 1 / (1 + Math.exp(-(d - RIM.r) / 0.8));
      const line = (Math.exp(-(((d - RIM.r - 1.5) / 1.4) ** 2)) * Math.max(0, -dx - 0.6 * dy)) / d;
      data[y * WIDTH + x] = Math.round(120 + outside * grain * rough - ring * line + noise());
    }
  }
  return { width: WIDTH, height: HEIGHT, data };
}
