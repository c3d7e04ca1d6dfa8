import { DEMO_SCHOOL, simulateYear } from './year.ts';

/** Prints what a school, a country and all schools make in a year: the table of docs/scale.md. */
const ROWS = [
  { name: 'a school', schools: 1, zones: 0 },
  { name: 'a country, 200 schools', schools: 200, zones: 0 },
  { name: 'all, 5,000 schools', schools: 5000, zones: 11 },
];
const SEED = 11;

for (const { name, schools, zones } of ROWS) {
  const y = simulateYear(DEMO_SCHOOL, schools, SEED, zones);
  const gigabytes = (bytes: number): string => `${(bytes / 1e9).toPrecision(3)} GB`;
  console.log(
    `${name.padEnd(24)} ${Math.round(y.pieces)} pieces, ${(y.entries / 1e6).toPrecision(3)} million entries, ${gigabytes(y.bytes)}, pictures ${gigabytes(y.pictureBytes)}, at most ${y.peakPerSecond.toPrecision(2)} entries a second`,
  );
}
