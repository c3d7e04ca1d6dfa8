import { FACE_SETTINGS, type FaceSettings } from './settings.ts';

type Group = keyof FaceSettings;

/** Every threshold, as `group.name`. */
export const THRESHOLDS: readonly string[] = Object.entries(FACE_SETTINGS).flatMap(([group, values]) =>
  Object.keys(values).map((name) => `${group}.${name}`),
);

/** The shipped settings with one threshold so many times as large. */
export function scaled(threshold: string, times: number): FaceSettings {
  const [group, name] = threshold.split('.') as [Group, string];
  const values = FACE_SETTINGS[group] as Readonly<Record<string, number>>;
  return { ...FACE_SETTINGS, [group]: { ...values, [name]: values[name]! * times } };
}

/** The shipped settings with one threshold raised by a third; one that counts goes up to the next whole number. */
export function raised(threshold: string): FaceSettings {
  const [group, name] = threshold.split('.') as [Group, string];
  const value = (FACE_SETTINGS[group] as Readonly<Record<string, number>>)[name]!;
  const counts = Number.isInteger(value) && value > 1;
  return scaled(threshold, counts ? Math.ceil((value * 4) / 3) / value : 4 / 3);
}
