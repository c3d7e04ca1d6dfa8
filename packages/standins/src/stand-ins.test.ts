import { connect } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { commandOf, errorQueue, type RunningStandIns, startStandIns } from './index.ts';

/** A bare client: sends one message, gives what comes until a line feed, the end or the time-out. */
function ask(port: number, message: string, waitMs = 1000): Promise<string> {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1');
    let text = '';
    const done = (): void => {
      clearTimeout(timer);
      socket.destroy();
      resolve(text);
    };
    const timer = setTimeout(done, waitMs);
    socket.setEncoding('latin1');
    socket.on('connect', () => socket.write(`${message}\n`));
    socket.on('data', (chunk) => {
      text += String(chunk);
      if (text.endsWith('\n')) done();
    });
    socket.on('close', done);
    socket.on('error', done);
  });
}

let running: RunningStandIns;
beforeEach(async () => {
  running = await startStandIns(11);
});
afterEach(() => running.stop());
const port = (name: keyof RunningStandIns['instruments']): number => running.instruments[name].port;
const order = async (body: unknown): Promise<number> =>
  (await fetch(`http://127.0.0.1:${running.controlPort}/`, { method: 'POST', body: JSON.stringify(body) }))
    .status;
const levelAt = async (): Promise<number> => Number(await ask(port('meter'), 'READ:POW?'));

describe('SCPI', () => {
  it('names itself, in long and short form, upper and lower case', async () => {
    expect(await ask(port('meter'), '*IDN?')).toMatch(/^Clear Mark stand-in,Power meter,/);
    expect(await ask(port('meter'), 'sense:power:wavelength?')).toBe('1.310000E-6\n');
    expect(await ask(port('meter'), 'SENS:POW:WAV 1550E-9;:SENS:POW:WAV?;:UNIT:POW?')).toBe(
      '1.550000E-6;DBM\n',
    );
  });
  it('keeps its errors until they are asked for', async () => {
    expect(await ask(port('meter'), 'FOO:BAR;:SENS:POW:WAV 7;:SYST:ERR?;:SYST:ERR?;:SYST:ERR?')).toBe(
      '-113,"Undefined header";-222,"Data out of range";0,"No error"\n',
    );
    const queue = errorQueue();
    for (let i = 0; i < 40; i++) queue.add(-113, 'x');
    const all = Array.from({ length: 21 }, () => queue.next());
    expect(all[19]).toBe('-350,"Queue overflow"');
    expect(all[20]).toBe('0,"No error"');
  });
  it('a header that is neither the long nor the short form is none', () => {
    const table = { 'SENSe:POWer?': () => '1' };
    expect(commandOf(table, 'SENS:POWE?')).toBeNull();
    expect(commandOf(table, 'SENSE:POW?')).not.toBeNull();
  });
});

describe('one piece in front of them all', () => {
  it('dark, then the reference, then the link with its loss', async () => {
    expect(await ask(port('meter'), 'READ:POW?')).toBe('-9.9E+37\n');
    expect(await order({ act: 'connect', to: 'reference' })).toBe(200);
    const reference = await levelAt();
    expect(reference).toBeCloseTo(-5, 1);
    await order({ act: 'connect', to: 'link' });
    const clean = reference - (await levelAt());
    expect(clean).toBeGreaterThan(0.3);
    await order({ act: 'touch', end: 'near' });
    expect(reference - (await levelAt())).toBeGreaterThan(clean + 0.2);
  });
  it('the splicer sees the cleaves, and a bad one makes a bad splice in the light', async () => {
    await order({ act: 'connect', to: 'link' });
    const before = await levelAt();
    expect(await ask(port('splicer'), 'SPL:EST?')).toBe('9.91E+37\n');
    await order({ act: 'cleave', side: 'left', care: 0 });
    await order({ act: 'cleave', side: 'right', care: 0 });
    const [left] = (await ask(port('splicer'), 'SPL:CLE?')).split(',').map(Number);
    expect(left).toBeGreaterThan(1);
    await ask(port('splicer'), 'SPL:FUSE;:SPL:EST?');
    const estimate = Number(await ask(port('splicer'), 'SPL:EST?'));
    expect(estimate).toBeGreaterThan(0.1);
    expect(before - (await levelAt())).toBeGreaterThan(0.1);
  });
  it('a switched-off source is dark at the meter; ports light as they are wired', async () => {
    await order({ act: 'connect', to: 'reference' });
    await ask(port('source'), 'SOUR:POW:STAT OFF;:SOUR:POW:STAT?');
    expect(await ask(port('meter'), 'READ:POW?')).toBe('-9.9E+37\n');
    await order({ act: 'ports', far: [2, 1, 0, 4] });
    const far = await Promise.all([1, 2, 3, 4].map((n) => ask(port('ports'), `ROUT:LIGH ${n};:SENS:PORT?`)));
    expect(far[0]).toBe('2\n');
    expect(await ask(port('ports'), 'ROUT:LIGH 3;:SENS:PORT?')).toBe('0\n');
  });
  it('refuses an act that is none', async () => {
    expect(await order({ act: 'explode' })).toBe(422);
    expect(await order({ act: 'fail', instrument: 'kettle', how: 'silent' })).toBe(422);
    expect(await order({ act: 'cleave', side: 'left', care: 7 })).toBe(422);
  });
});

describe('made to fail', () => {
  it.each([
    ['silent', /^$/],
    ['garbage', /^[^0-9]*\n$/],
    ['not_a_number', /^9\.91E\+37\n$/],
    ['over_range', /^9\.9E\+37\n$/],
    ['disconnect', /^$/],
    ['half_a_line', /^-9\.9[^\n]*$/],
  ] as const)('%s', async (how, answer) => {
    await order({ act: 'fail', instrument: 'meter', how });
    expect(await ask(port('meter'), 'READ:POW?', 400)).toMatch(answer);
    await order({ act: 'fail', instrument: 'meter', how: 'none' });
    expect(await ask(port('meter'), 'READ:POW?')).toBe('-9.9E+37\n');
  });
  it('an endless line is a megabyte without a line feed', async () => {
    await order({ act: 'fail', instrument: 'meter', how: 'endless_line' });
    const text = await ask(port('meter'), 'READ:POW?', 600);
    expect(text.length).toBe(1_048_576);
    expect(text).not.toContain('\n');
  });
});
