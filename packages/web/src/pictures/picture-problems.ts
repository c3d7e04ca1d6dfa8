/** Why a file cannot be looked at as a picture. */
export type PictureProblem = 'format' | 'cut' | 'animated' | 'broken' | 'too_many_pixels';

export const PROBLEM_WORDS: Readonly<Record<PictureProblem, (name: string) => string>> = {
  format: (name) => `${name} is neither a PNG nor a JPEG picture.`,
  cut: (name) => `${name} cannot be read: it is broken or cut short.`,
  broken: (name) => `${name} cannot be read: it is broken or cut short.`,
  animated: (name) => `${name} is an animated picture; take one of its pictures alone.`,
  too_many_pixels: (name) => `${name} has more pixels than are taken here, 40 million.`,
};
