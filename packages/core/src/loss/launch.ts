/** A multimode launch cord and the link that it feeds. */
export interface LaunchCord {
  /** 50 or 62.5 um. */
  readonly coreUm: number;
  /** Outer diameter of the launch cord's jacket in mm; 0.9 where it is bare buffer. */
  readonly jacketMm: number;
  /** Its fiber hardly feels a bend: a mandrel does not shed its high-order modes. */
  readonly bendInsensitive: boolean;
  /** The link is to carry 10 Gb/s or more. */
  readonly tenGigabit: boolean;
}

export const LAUNCH_NOTES = ['bend_insensitive', 'encircled_flux'] as const;
export interface LaunchAdvice {
  readonly turns: number;
  /** The mandrel's diameter for this jacket, mm; null for a core that has none. */
  readonly mandrelMm: number | null;
  readonly notes: readonly (typeof LAUNCH_NOTES)[number][];
  /** Whether wrapping the cord conditions the launch as it has to be. */
  readonly mandrelWill: boolean;
}

/**
 * Mandrels by core: fiber of 125 um in jackets of 3.0, 2.4, 2.0 and 1.6 mm and in 0.9 mm buffer, diameters in mm. The thinner
 * the jacket, the thicker the mandrel, so that the fiber itself is bent alike.
 * Source: TIA-568, five turns, from memory; compare the school's own copy.
 */
const MANDRELS: readonly {
  readonly coreUm: number;
  readonly by: readonly (readonly [jacketMm: number, mandrelMm: number])[];
}[] = [
  {
    coreUm: 50,
    by: [
      [3, 22],
      [2.4, 23],
      [2, 23],
      [1.6, 24],
      [0.9, 25],
    ],
  },
  {
    coreUm: 62.5,
    by: [
      [3, 17],
      [2.4, 18],
      [2, 18],
      [1.6, 19],
      [0.9, 20],
    ],
  },
];
const TURNS = 5;

/** Jackets that a mandrel is known for, mm. */
export const LAUNCH_JACKETS_MM = MANDRELS[0]!.by.map(([jacketMm]) => jacketMm);

/**
 * How the launch of a multimode test is conditioned: turns and mandrel for the cord's core and jacket (the nearest that is
 * known), and whether that is enough. A bend-insensitive cord is not conditioned by a mandrel; 50 um fiber for 10 Gb/s and
 * more asks for a launch of encircled flux (IEC 61280-4-1, from memory), which takes a mode-controlled cord.
 * Example: 50 um in 3 mm: five turns on 22 mm.
 */
export function launchAdvice({ coreUm, jacketMm, bendInsensitive, tenGigabit }: LaunchCord): LaunchAdvice {
  const table = MANDRELS.find((m) => m.coreUm === coreUm);
  const nearest = table?.by.reduce((a, b) => (Math.abs(b[0] - jacketMm) < Math.abs(a[0] - jacketMm) ? b : a));
  const notes: LaunchAdvice['notes'][number][] = [];
  if (bendInsensitive) notes.push('bend_insensitive');
  if (tenGigabit && coreUm === 50) notes.push('encircled_flux');
  return {
    turns: TURNS,
    mandrelMm: nearest?.[1] ?? null,
    notes,
    mandrelWill: nearest !== undefined && notes.length === 0,
  };
}
