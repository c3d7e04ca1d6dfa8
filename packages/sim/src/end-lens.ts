import type { CardPicture, EndScene } from './end-scene.ts';

/** The places and turn of a pinhole camera with one term of radial distortion. */
export interface Lens {
  readonly focal: number;
  readonly k1: number;
  readonly cx: number;
  readonly cy: number;
  readonly eye: readonly [number, number, number];
  /** Rows: right, down, away. */
  readonly turn: readonly (readonly [number, number, number])[];
}

/** The card fits into this share of the picture's height. */
const FITS = 0.86;

/** The camera of a scene: it looks at the middle of the card from where all of it fits. */
export function lensOf(scene: EndScene, card: CardPicture): Lens {
  const { width, height } = scene;
  const focal = 0.8 * Math.max(width, height);
  const turned = (scene.rollDeg * Math.PI) / 180;
  const across = card.widthMm * Math.abs(Math.cos(turned)) + card.heightMm * Math.abs(Math.sin(turned));
  const upright = card.widthMm * Math.abs(Math.sin(turned)) + card.heightMm * Math.abs(Math.cos(turned));
  const away = focal * Math.max(across / (scene.fills * width), upright / (FITS * height));
  const tilt = (Math.min(40, scene.tiltDeg) * Math.PI) / 180;
  const way = (scene.tiltWay * Math.PI) / 180;
  const roll = turned;
  const aim = [card.widthMm / 2, card.heightMm / 2, 0] as const;
  // Away from the eye, into the table.
  const look = [Math.sin(tilt) * Math.cos(way), Math.sin(tilt) * Math.sin(way), Math.cos(tilt)] as const;
  const eye = [aim[0] - look[0] * away, aim[1] - look[1] * away, -look[2] * away] as const;
  const side = [Math.cos(roll), Math.sin(roll), 0] as const;
  const dot = side[0] * look[0] + side[1] * look[1];
  const raw = [side[0] - dot * look[0], side[1] - dot * look[1], -dot * look[2]] as const;
  const size = Math.hypot(...raw);
  const right = [raw[0] / size, raw[1] / size, raw[2] / size] as const;
  const down = [
    look[1] * right[2] - look[2] * right[1],
    look[2] * right[0] - look[0] * right[2],
    look[0] * right[1] - look[1] * right[0],
  ] as const;
  return { focal, k1: scene.k1, cx: (width - 1) / 2, cy: (height - 1) / 2, eye, turn: [right, down, look] };
}

/** The direction in which a pixel looks. */
export function rayOf(
  { focal, k1, cx, cy, turn }: Lens,
  x: number,
  y: number,
): readonly [number, number, number] {
  const u = (x - cx) / focal;
  const v = (y - cy) / focal;
  // Out of the distortion by its own steps.
  let a = u;
  let b = v;
  for (let i = 0; i < 4; i++) {
    const d = 1 + k1 * (a * a + b * b);
    a = u / d;
    b = v / d;
  }
  const right = turn[0]!;
  const down = turn[1]!;
  const away = turn[2]!;
  return [
    right[0] * a + down[0] * b + away[0],
    right[1] * a + down[1] * b + away[1],
    right[2] * a + down[2] * b + away[2],
  ];
}
