import { DomainError } from '../../domain-error.ts';
import { checkImage, type GreyImage } from '../pixels/image.ts';
import { directionOf, profileAlong } from './line-profile.ts';
import { centresOf, periodOf } from './line-period.ts';

/** Why a picture is no calibration slide that a scale can be taken from. */
export const SLIDE_REFUSALS = ['no_lines', 'too_few_lines', 'uneven_lines'] as const;
export type SlideRefusal = (typeof SLIDE_REFUSALS)[number];

export type MeasuredSlide =
  | {
      readonly ok: true;
      readonly umPerPx: number;
      /** Expanded uncertainty (k = 2) of the scale as a share of it, by how evenly the lines lie; not that of the slide itself. */
      readonly uncertainty: number;
      readonly lines: number;
      /** Pixels from one line to the next. */
      readonly pitchPx: number;
      /** Direction across the lines, degrees from the picture's x axis, -90 to 90. */
      readonly degrees: number;
    }
  | { readonly ok: false; readonly reason: SlideRefusal };

const FEWEST_LINES = 5;
/** Standard deviation of the lines from even places, as a share of the pitch: more is no ruled scale, or a bent picture. */
const MOST_UNEVEN = 0.06;

/**
 * The scale of a microscope from a picture of its calibration slide: parallel lines at an even pitch of `divisionUm` (um, over 0).
 * The direction across the lines is that of the gradients (structure tensor), made exact by the sharpest profile; the pitch is
 * the least lag at which the profile is like itself; the centres of the lines, numbered in order, are fitted by a straight
 * line. Longer lines among shorter ones are no matter. Errors: `face.bad_image`, `face.bad_division`. Example: lines of
 * 10 um that lie 25.0 px apart give 0.400 um a pixel.
 */
export function measureSlide(image: GreyImage, divisionUm: number): MeasuredSlide {
  checkImage(image);
  if (!(divisionUm > 0) || !Number.isFinite(divisionUm))
    throw new DomainError('face.bad_division', { divisionUm });
  const angle = directionOf(image);
  if (angle === null) return { ok: false, reason: 'no_lines' };
  const profile = profileAlong(image, angle);
  const period = periodOf(profile);
  if (period === null) return { ok: false, reason: 'no_lines' };
  const centres = centresOf(profile, period);
  if (centres.length < FEWEST_LINES) return { ok: false, reason: 'too_few_lines' };
  const { slope, error, spread } = fitted(centres);
  if (spread > MOST_UNEVEN * slope) return { ok: false, reason: 'uneven_lines' };
  return {
    ok: true,
    umPerPx: divisionUm / slope,
    uncertainty: (2 * error) / slope,
    lines: centres.length,
    pitchPx: slope,
    degrees: (angle * 180) / Math.PI,
  };
}

/** Least squares of the places of lines on their numbers: slope, its standard error, and the spread about the fit. */
function fitted(lines: readonly { readonly number: number; readonly at: number }[]) {
  const n = lines.length;
  const meanNumber = lines.reduce((sum, l) => sum + l.number, 0) / n;
  const meanAt = lines.reduce((sum, l) => sum + l.at, 0) / n;
  let xx = 0;
  let xy = 0;
  for (const { number, at } of lines) {
    xx += (number - meanNumber) ** 2;
    xy += (number - meanNumber) * (at - meanAt);
  }
  const slope = xy / xx;
  const squares = lines.reduce((sum, { number, at }) => {
    const off = at - meanAt - slope * (number - meanNumber);
    return sum + off * off;
  }, 0);
  const spread = Math.sqrt(squares / (n - 2));
  return { slope, spread, error: spread / Math.sqrt(xx) };
}
