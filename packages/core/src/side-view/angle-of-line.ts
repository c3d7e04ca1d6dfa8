import type { PicturePlace } from './picture-scale.ts';

type Line = readonly [PicturePlace, PicturePlace];

/**
 * The angle of a face line against the perpendicular of an axis, degrees: positive when the upper corner sticks out further. The axis goes
 * outwards from its first place to its last. Example: a face upright in the picture on a level axis has 0.
 */
export function angleOfLine(face: Line, axis: Line, side: 'left' | 'right'): number {
  const t = unit(axis[0], axis[1]);
  // Upwards across the axis, whichever way it points.
  const up = side === 'left' ? { x: t.y, y: -t.x } : { x: -t.y, y: t.x };
  const [low, high] = face[0].y > face[1].y ? face : [face[1], face[0]];
  const along = (high.x - low.x) * t.x + (high.y - low.y) * t.y;
  const across = (high.x - low.x) * up.x + (high.y - low.y) * up.y;
  return (Math.atan2(along, across) * 180) / Math.PI;
}

function unit(from: PicturePlace, to: PicturePlace): PicturePlace {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  return { x: (to.x - from.x) / length, y: (to.y - from.y) / length };
}
