import {
  randomDefect,
  randomScene,
  type RenderedFace,
  renderFace,
  rngFrom,
  type TrueFeature,
} from '@clear-mark/sim';
import sharp from 'sharp';

const SCENE = { width: 640, height: 480, umPerPx: 0.36, centre: [331.4, 236.2] as const };

/** An end face with the given features, the same for the same seed. */
export function faceWith(features: readonly TrueFeature[], seed = 4): RenderedFace {
  const rng = rngFrom(seed);
  const core = { radiusUm: 4.5, level: 165 };
  return renderFace(
    randomScene(rng, { ...SCENE, core, claddingLevel: 135, ferruleLevel: 95 }),
    features,
    rng,
  );
}
export const speck = (sizeUm: number, x: number, y: number): TrueFeature =>
  randomDefect(rngFrom(9), sizeUm, -70, [x, y]);

export const pngOf = ({ width, height, data }: RenderedFace): Promise<Buffer> =>
  sharp(Buffer.from(data), { raw: { width, height, channels: 1 } })
    .png()
    .toBuffer();
