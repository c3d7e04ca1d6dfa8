import { DomainError } from '../domain-error.ts';
import { requirePositive } from './joint-loss.ts';

/**
 * Field radius of a step-index fiber in um: w / a = 0.65 + 1.619 V^-1.5 + 2.879 V^-6, V = 2 pi a NA / lambda.
 * Source: Marcuse 1977; the fit is good to about 1 % for V from 1.2 to 2.4, and other V are refused.
 * Errors: `physics.out_of_domain`. Example: a = 4.1 um, NA 0.12 at 1310 nm gives V = 2.36 and w = 4.6 um.
 */
export function stepFieldRadiusUm(coreRadiusUm: number, aperture: number, wavelengthNm: number): number {
  requirePositive('coreRadiusUm', coreRadiusUm);
  requirePositive('aperture', aperture);
  requirePositive('wavelengthNm', wavelengthNm);
  const v = (2 * Math.PI * coreRadiusUm * aperture) / (wavelengthNm / 1000);
  if (v < 1.2 || v > 2.4) throw new DomainError('physics.out_of_domain', { quantity: 'V', value: v });
  return coreRadiusUm * (0.65 + 1.619 * v ** -1.5 + 2.879 * v ** -6);
}
