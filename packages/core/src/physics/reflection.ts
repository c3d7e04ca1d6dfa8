import { requirePositive } from './joint-loss.ts';

/**
 * Index of the glass of single-mode fiber at 1310 nm as typical data sheets state it: the group index; the phase index is some 1 % less.
 * No unit; from memory.
 */
export const GLASS_INDEX = 1.468;

/**
 * Share of the power that one face sends back at right angles, R = ((n1 - n2) / (n1 + n2))^2 (Fresnel).
 * Domain: indexes over 0. Error: `physics.out_of_domain`. Example: glass of 1.468 to air reflects 3.6 %.
 */
export function faceReflectance(fromIndex: number, intoIndex: number): number {
  requirePositive('index', fromIndex);
  requirePositive('index', intoIndex);
  return ((fromIndex - intoIndex) / (fromIndex + intoIndex)) ** 2;
}

/** Return loss in dB, positive: -10 log10 R (by definition); null where nothing comes back. Example: R = 0.036 is 14.4 dB. */
export function returnLossDb(reflectance: number): number | null {
  return reflectance > 0 ? -10 * Math.log10(reflectance) : null;
}

/**
 * The most that a gap between two faces sends back, 4 R / (1 + R)^2: both reflections in step, as at a gap of an odd number of
 * quarter wavelengths (Fabry-Perot; a flat glass-air-glass gap). Errors: as `faceReflectance`. Example: glass of 1.468 to air
 * sends back 13.4 % at worst, a return loss of 8.7 dB, where a single face has 14.4 dB.
 */
export function worstGapReflectance(glassIndex: number, gapIndex: number): number {
  const r = faceReflectance(glassIndex, gapIndex);
  return (4 * r) / (1 + r) ** 2;
}

/**
 * Loss in dB by reflection at the two faces of a gap: (1 - R)^2 passes, or (1 - R) / (1 + R) with the light that
 * bounces between the faces counted too (incoherent sum). Errors and source as `faceReflectance`. Example: glass to air to glass, 0.32 dB and 0.31 dB.
 */
export function gapReflectionDb(glassIndex: number, gapIndex: number, bounces: boolean): number {
  const r = faceReflectance(glassIndex, gapIndex);
  const passed = bounces ? (1 - r) / (1 + r) : (1 - r) ** 2;
  return r === 0 ? 0 : -10 * Math.log10(passed);
}
