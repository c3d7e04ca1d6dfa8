import { DomainError } from '../domain-error.ts';
import { MOST_TRACE_POINTS } from './read-sor.ts';
import type { Trace } from './trace.ts';

const FORMAT = 'clear-mark trace 1';
const HEADER = 'position_m,level_db';
const LEAST_POINTS = 2;
/** Fields of a trace beside its points, in the order in which they are written. */
const FIELDS = [
  ['wavelength_nm', 'wavelengthNm'],
  ['pulse_ns', 'pulseNs'],
  ['group_index', 'groupIndex'],
  ['backscatter_db', 'backscatterDb'],
  ['averages', 'averages'],
  ['first_m', 'firstM'],
  ['spacing_m', 'spacingM'],
] as const;
const POSITIVE: ReadonlySet<string> = new Set(['wavelength_nm', 'pulse_ns', 'group_index', 'spacing_m']);

/** A trace as JSON: its fields with their units, and `levels_db`, one-way, 0 the strongest. */
export const traceToJson = (trace: Trace): string =>
  JSON.stringify({
    format: FORMAT,
    ...Object.fromEntries(FIELDS.map(([name, key]) => [name, trace[key]])),
    levels_db: [...trace.levelsDb],
  });

/** The other way round. Error: `trace.bad_field` with the first field that is not as it should be. */
export function traceFromJson(text: string): Trace {
  let found: unknown;
  try {
    found = JSON.parse(text);
  } catch {
    throw bad('JSON');
  }
  const given = (found ?? {}) as Readonly<Record<string, unknown>>;
  if (given['format'] !== FORMAT) throw bad('format');
  const levels = given['levels_db'];
  if (!Array.isArray(levels)) throw bad('levels_db');
  return traceOf(given, levels as unknown[]);
}

/**
 * A trace as CSV: its fields as lines that begin with `#`, then position and level of each point, with decimal points. Example line:
 * `# wavelength_nm,1310`.
 */
export function traceToCsv(trace: Trace): string {
  const head = FIELDS.map(([name, key]) => `# ${name},${trace[key] ?? ''}`);
  const lines = Array.from(
    trace.levelsDb,
    (level, i) => `${Number((trace.firstM + i * trace.spacingM).toFixed(4))},${level}`,
  );
  return `${[`# format,${FORMAT}`, ...head, HEADER, ...lines].join('\n')}\n`;
}

/**
 * The other way round; positions are those of the fields, those of the lines are for whoever reads them. Errors: `trace.bad_field`,
 * `trace.bad_line` with the number of the line.
 */
export function traceFromCsv(text: string): Trace {
  const given: Record<string, unknown> = {};
  const levels: number[] = [];
  let headed = false;
  const lines = text.replace(/^\uFEFF/, '').split(/\r?\n/);
  for (const [i, line] of lines.entries()) {
    if (line === '' && i === lines.length - 1) continue;
    if (!headed && line.startsWith('#')) {
      const [name, value] = cells(line.slice(1), i);
      given[name.trim()] = name.trim() === 'format' ? value : value === '' ? null : Number(value);
    } else if (!headed) {
      if (line !== HEADER) throw new DomainError('trace.bad_line', { line: i + 1 });
      headed = true;
    } else {
      const [position, level] = cells(line, i);
      if (
        position === '' ||
        level === '' ||
        !Number.isFinite(Number(position)) ||
        !Number.isFinite(Number(level))
      )
        throw new DomainError('trace.bad_line', { line: i + 1 });
      levels.push(Number(level));
    }
  }
  if (given['format'] !== FORMAT) throw bad('format');
  return traceOf(given, levels);
}

function cells(line: string, i: number): [string, string] {
  const parts = line.split(',');
  if (parts.length !== 2) throw new DomainError('trace.bad_line', { line: i + 1 });
  return [parts[0]!, parts[1]!];
}

const bad = (field: string): DomainError => new DomainError('trace.bad_field', { field });

function traceOf(given: Readonly<Record<string, unknown>>, levels: readonly unknown[]): Trace {
  const fields: Record<string, number | null> = {};
  for (const [name, key] of FIELDS) {
    const value = given[name];
    const none = name === 'backscatter_db' && value === null;
    const fits = typeof value === 'number' && Number.isFinite(value) && (!POSITIVE.has(name) || value > 0);
    if (!none && !fits) throw bad(name);
    fields[key] = value as number | null;
  }
  const points = levels.length;
  if (points < LEAST_POINTS || points > MOST_TRACE_POINTS) throw bad('levels_db');
  if (levels.some((v) => typeof v !== 'number' || !Number.isFinite(v) || v > 0)) throw bad('levels_db');
  return {
    ...(fields as unknown as Omit<Trace, 'levelsDb'>),
    levelsDb: Float64Array.from(levels as number[]),
  };
}
