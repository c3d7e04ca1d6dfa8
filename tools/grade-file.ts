import path from 'node:path';
import { faceCriteria, type FeatureKind, isNearLimit, measureFace, passProbability } from '@clear-mark/core';
import { greyPicture } from './grey-picture.ts';

/** The result of one picture, as it is written to its JSON file. */
export interface GradedFile {
  readonly file: string;
  readonly ok: boolean;
  readonly reason?: string;
  readonly scale_um_per_px?: number;
  readonly centre_px?: readonly [number, number];
  readonly cladding_diameter_px?: number;
  readonly features?: readonly {
    readonly kind: FeatureKind;
    readonly size_um: number;
    readonly x_um: number;
    readonly y_um: number;
    readonly length_um?: number;
    /** Expanded uncertainty of the size, k = 2. */
    readonly uncertainty_um: number;
  }[];
  readonly verdict?: 'pass' | 'fail';
  /** From 0 to 1, by the uncertainties of what was found. */
  readonly pass_probability?: number;
  /** The verdict may well be the other one. */
  readonly near_limit?: boolean;
  /** Share of the contact zone that lies in the picture. */
  readonly contact_zone_seen?: number;
}

const REFUSALS: Readonly<Record<string, string>> = {
  too_small: 'the picture is too small to show an end face',
  too_dark: 'the picture is too dark',
  no_face: 'no end face is to be seen: there is no cladding circle',
  cut_off: 'the cladding is not wholly in the picture',
  too_blurred: 'the picture is too blurred to show a 2 µm defect',
  too_coarse: 'too few pixels for each µm to show a 2 µm defect',
};

const round = (value: number, digits: number): number => Number(value.toFixed(digits));

/** Reads one PNG or JPEG, makes it grey, measures and grades it. What cannot be graded is told with its reason. */
export async function gradeFile(file: string, criteria: string): Promise<GradedFile> {
  const name = path.basename(file);
  const refused = (reason: string): GradedFile => ({ file: name, ok: false, reason });
  const grey = await greyPicture(file);
  if ('refused' in grey) return refused(grey.refused);
  const table = faceCriteria(criteria)!;
  const found = measureFace(grey, table);
  if (!found.ok) return refused(REFUSALS[found.reason]!);
  const probability = passProbability(found.features, table);
  return {
    file: name,
    ok: true,
    scale_um_per_px: round(found.umPerPx, 6),
    centre_px: [round(found.centrePx[0], 2), round(found.centrePx[1], 2)],
    cladding_diameter_px: round(found.claddingDiameterPx, 2),
    features: found.features.map((f) => ({
      kind: f.kind,
      size_um: round(f.sizeUm, 3),
      x_um: round(f.xUm, 2),
      y_um: round(f.yUm, 2),
      ...(f.lengthUm === undefined ? {} : { length_um: round(f.lengthUm, 2) }),
      uncertainty_um: round(f.uncertaintyUm, 2),
    })),
    verdict: found.grade.verdict,
    pass_probability: round(probability, 3),
    near_limit: isNearLimit(probability),
    contact_zone_seen: round(found.contactSeen, 3),
  };
}
