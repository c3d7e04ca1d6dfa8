import type { FaceFeature, FaceRefusal, SlideRefusal, ZoneBreach } from '@clear-mark/core';

/** Why a picture is not graded, and what would help. */
export const FACE_REFUSAL_WORDS: Readonly<Record<FaceRefusal, string>> = {
  too_small: 'The picture is too small to show an end face.',
  too_dark: 'The picture is too dark. Turn the scope’s light up.',
  no_face: 'No end face is to be seen: there is no cladding circle.',
  cut_off: 'The cladding is not wholly in the picture. Centre it.',
  too_blurred: 'The picture is too blurred to show a 2 µm defect. Focus again.',
  too_coarse: 'Too few pixels for each µm to show a 2 µm defect. Take a higher magnification.',
};

/** That a grade may well be the other one, with the probability that the face passes and what to do. */
export function nearLimitWords(probability: number): string {
  const percent = Math.round(100 * probability);
  return `Near the limit: by what this picture can show, the chance of a pass is ${percent} %. Look closer, or with another scope.`;
}

/** Why no scale could be taken from a picture of a calibration slide, and what to do. */
export const SLIDE_REFUSAL_WORDS: Readonly<Record<SlideRefusal, string>> = {
  no_lines:
    'No even lines are to be seen: focus on the lines of the slide, with nothing else in the picture.',
  too_few_lines: 'Fewer than five lines are in the picture: take a finer part of the slide.',
  uneven_lines:
    'The lines lie unevenly: take them where the picture is not bent, and no other marks are between them.',
};

/** That a zone, or a face, allows all that was found in it. */
export const allowedWords = (found: number): string =>
  found === 0 ? 'nothing found' : `${found} found, all allowed`;

/** The rule that decided, with the figures. */
export function breachWords(breach: ZoneBreach, features: readonly Pick<FaceFeature, 'sizeUm'>[]): string {
  const one = breach.kind;
  const many = one === 'scratch' ? 'scratches' : 'defects';
  const sizes = breach.features.map((i) => features[i]!.sizeUm);
  if (breach.band === null) {
    const largest = Math.max(...sizes).toFixed(1);
    return sizes.length === 1
      ? `a ${one} of ${largest} µm, which is not allowed`
      : `${sizes.length} ${many} that are not allowed, up to ${largest} µm`;
  }
  const { fromUm, toUm, count } = breach.band;
  return `${sizes.length} ${many} of ${fromUm} to ${toUm} µm, ${count ?? 0} allowed`;
}
