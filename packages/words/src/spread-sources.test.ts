import { describe, expect, it } from 'vitest';
import { spreadSourceWords } from './spread-sources.ts';

type Sources = Parameters<typeof spreadSourceWords>[0]['spreadSources'];
const source = (name: string, share: number, low: number, effect = 0, error = 0.01) => ({
  source: name,
  sd: 0.1,
  share,
  low,
  high: share + 0.2,
  levels: [
    { level: 'Cleaver 3', n: 40, effect, error },
    { level: 'Cleaver 1', n: 40, effect: -effect / 3, error },
  ],
});
const chance = { source: 'chance', sd: 0.1, share: 0.3, low: 0.2, high: 0.4 };
const said = (spreadSources: Sources, n = 212, measure: 'loss' | 'distance' = 'loss') =>
  spreadSourceWords({ n, measure, spreadSources }).join(' ');

describe('trainee, tool or test, in words', () => {
  it('names what the spread goes with, and which one of it', () => {
    const spreadSources = {
      components: {
        n: 212,
        sources: [source('trainee', 0.2, 0.08), source('cleaver', 0.5, 0.25, 0.12)],
        chance,
      },
      left: [],
    };
    const words = said(spreadSources);
    expect(words).toContain(
      'Of the spread of these 212 readings 50 % goes with the cleaver (25 % to 70 %) and 20 %',
    );
    expect(words).toContain('Cleaver 3 loses 0.12 dB more against the others (± 0.02, 40 readings).');
    expect(said(spreadSources, 212, 'distance')).toContain('Cleaver 3 saves 0.12 dB against');
  });
  it('is silent about what may be nothing', () => {
    const spreadSources = {
      components: { n: 40, sources: [source('bench', 0.1, 0.001, 0.3)], chance },
      left: [],
    };
    expect(said(spreadSources, 40)).toBe(
      'These 40 readings do not show that their spread goes with anything but chance.',
    );
  });
  it('says what these readings cannot tell', () => {
    expect(said({ components: null, left: [{ reason: 'no_spread', sources: ['trainee'] }] }, 30)).toContain(
      'no spread',
    );
    expect(said({ components: null, left: [] }, 12)).toBe(
      '12 readings are too few to say what their spread goes with.',
    );
    const left = [
      { reason: 'same_groups', sources: ['trainee', 'cleaver'] },
      { reason: 'one_level', sources: ['film'] },
    ];
    const components = { n: 50, sources: [source('trainee', 0.4, 0.2)], chance };
    const words = said({ components, left }, 50);
    expect(words).toContain('40 % goes with the trainee or the cleaver');
    expect(words).toContain('cannot tell trainee and cleaver apart');
    expect(words).toContain('All were made with one film');
    // Where nothing goes with either there is nothing to tell spreadSources.
    const none = { n: 50, sources: [source('trainee', 0.1, 0)], chance };
    expect(said({ components: none, left: left.slice(0, 1) }, 50)).not.toContain('apart');
  });
});
