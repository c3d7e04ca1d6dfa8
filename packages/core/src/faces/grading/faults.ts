/** What is wrong with a face, as the eye tells it. A crack, lint or film is graded as a defect. */
export const FACE_FAULTS = [
  'scratch',
  'pit',
  'edge_chip',
  'dust',
  'lint',
  'film',
  'crack',
  'fracture',
] as const;
export type FaceFault = (typeof FACE_FAULTS)[number];
