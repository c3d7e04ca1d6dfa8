import { describe, expect, it } from 'vitest';
import { aheadOfUtc, zoneChoices } from './time-zone.model.ts';

const winter = new Date('2026-01-15T12:00:00Z');
const summer = new Date('2026-07-15T12:00:00Z');

// Source: IANA time zone database, 2024a: Europe/Lisbon UTC+0 and UTC+1 in summer, Asia/Kolkata UTC+5:30 all year.
describe('zones of time', () => {
  it('say how far they are ahead of UTC on the day', () => {
    expect([aheadOfUtc('Europe/Lisbon', winter), aheadOfUtc('Europe/Lisbon', summer)]).toEqual([
      'UTC',
      'UTC+01:00',
    ]);
    expect(aheadOfUtc('Asia/Kolkata', summer)).toBe('UTC+05:30');
    expect(aheadOfUtc('America/St_Johns', winter)).toBe('UTC-03:30');
  });
  it('are found by the name that people say, and UTC is one of them', () => {
    const found = zoneChoices(winter, '', ['America/Sao_Paulo', 'Europe/Lisbon']);
    expect(found.map((z) => z.value)).toEqual(['America/Sao_Paulo', 'Europe/Lisbon', 'UTC']);
    expect(found[0]!.label).toBe('America/Sao Paulo (UTC-03:00)');
  });
  it('the one in use is among them, whatever this device calls it', () => {
    const found = zoneChoices(winter, 'Asia/Kolkata', ['Asia/Calcutta']);
    expect(found.map((z) => z.value)).toEqual(['Asia/Calcutta', 'UTC', 'Asia/Kolkata']);
  });
});
