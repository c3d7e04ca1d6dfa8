import type { LossSeries } from '@clear-mark/contract';
import { isThingKind, type NotIdentifiable } from '@clear-mark/core';
import { thingInText } from './names.ts';

/** Fewer readings say nothing of what their spread goes with. */
export const LEAST_TOLD = 20;
/** A share whose interval begins under this may be nothing. */
const LEAST_SHARE = 0.05;
/** A level stands out when it lies this many of its errors off the mean. */
const STANDS_OUT = 2.5;

const nameOf = (source: string): string => (isThingKind(source) ? thingInText(source) : source);
/** A source with those that these readings cannot tell from it. */
function allOf(source: string, left: LossSeries['spreadSources']['left']): string {
  const with_ = left
    .filter((l) => l.reason === 'same_groups' && l.sources[0] === source)
    .map((l) => l.sources[1]!);
  return [source, ...with_].map((s) => `the ${nameOf(s)}`).join(' or ');
}
const percent = (share: number): string => `${Math.round(100 * share)} %`;
const listed = (parts: readonly string[]): string =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts[parts.length - 1]!}`;

/**
 * "Trainee, tool or test?" of one sample of losses in sentences: what the spread goes with, which of it stands out, and what
 * these readings cannot tell. Silent about a share that may as well be nothing.
 */
export function spreadSourceWords({
  n,
  spreadSources,
  measure,
}: Pick<LossSeries, 'n' | 'spreadSources' | 'measure'>): string[] {
  if (n < LEAST_TOLD) return [`${n} readings are too few to say what their spread goes with.`];
  const said: string[] = [];
  if (spreadSources.components) {
    const { sources, chance, n: of } = spreadSources.components;
    const clear = sources.filter((s) => s.low >= LEAST_SHARE).sort((a, b) => b.share - a.share);
    const shares = clear.map(
      (s) =>
        `${percent(s.share)} goes with ${allOf(s.source, spreadSources.left)} (${percent(s.low)} to ${percent(s.high)})`,
    );
    said.push(
      clear.length === 0
        ? `These ${of} readings do not show that their spread goes with anything but chance.`
        : `Of the spread of these ${of} readings ${listed(shares)}; ${percent(chance.share)} comes with repeating the same.`,
    );
    for (const s of clear) {
      const [worst] = [...s.levels].sort((a, b) => Math.abs(b.effect) - Math.abs(a.effect));
      if (!worst || Math.abs(worst.effect) < STANDS_OUT * worst.error) continue;
      const higher = measure === 'loss' ? worst.effect > 0 : worst.effect < 0;
      const db = Math.abs(worst.effect).toFixed(2);
      said.push(
        `${worst.level} ${higher ? 'loses' : 'saves'} ${db} dB ${higher ? 'more' : ''} against the others (± ${(2 * worst.error).toFixed(2)}, ${worst.n} readings).`.replace(
          '  ',
          ' ',
        ),
      );
    }
  }
  const clearOnes = new Set(
    spreadSources.components?.sources.filter((s) => s.low >= LEAST_SHARE).map((s) => s.source),
  );
  const worth = spreadSources.left.filter((l) => l.reason !== 'same_groups' || clearOnes.has(l.sources[0]!));
  return [...said, ...worth.map(leftWords).filter((w) => w !== '')];
}

function leftWords({ reason, sources }: { reason: string; sources: readonly string[] }): string {
  const names = sources.map(nameOf);
  switch (reason as NotIdentifiable['reason']) {
    case 'one_level':
      return `All were made with one ${listed(names)}, so nothing can be said of it.`;
    case 'one_reading_each':
      return `Each ${listed(names)} was used once, so its part cannot be told from chance.`;
    case 'same_groups':
      return `These readings cannot tell ${listed(names)} apart: each keeps to one of the other. Let them swap for a few pieces.`;
    case 'combined':
      return `The part of ${listed(names)} cannot be told: in these readings they make each other up.`;
    case 'too_few':
      return 'There are too few readings to say what their spread goes with.';
    case 'no_spread':
      return 'All readings are the same, so there is no spread to explain.';
    default:
      return '';
  }
}
