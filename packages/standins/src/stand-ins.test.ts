import { connect } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import {
  device,
  headerIs,
  powerMeter,
  type RunningStandIns,
  simulatedBench,
  startStandIns,
  unitsOf,
} from './index.ts';

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
  });
  it('a header that is neither the long nor the short form is none', () => {
    expect(headerIs('SENSe:POWer', 'SENS:POWE')).toBe(false);
    expect(headerIs('SENSe:POWer', 'SENSE:POW')).toBe(true);
    expect(headerIs('FETCh[:SCALar]:POWer', 'FETC:POW')).toBe(true);
    expect(headerIs('FETCh[:SCALar]:POWer', 'FETCH:SCALAR:POWER')).toBe(true);
    expect(headerIs('FETCh[:SCALar]:POWer', 'FETC:SCAL')).toBe(false);
  });
  it('many short lines at once are many lines, one that does not end is cut', async () => {
    const burst = Array.from({ length: 2000 }, () => '*OPC?').join('\n');
    const lines = await new Promise<number>((resolve) => {
      const socket = connect(port('meter'), '127.0.0.1', () => socket.write(`${burst}\n`));
      let count = 0;
      socket.on('data', (part) => {
        count += String(part).split('\n').length - 1;
        if (count === 2000) socket.end();
      });
      socket.on('close', () => resolve(count));
    });
    expect(lines).toBe(2000);
    expect(await ask(port('meter'), `*OPC?;${' '.repeat(5000)}*OPC?`, 400)).toBe('');
  });
});

// IEEE 488.2-1992 and SCPI 1999: the numbers of errors and bits are theirs.
describe('as the standard has it', () => {
  const meter = () => {
    const bench = simulatedBench(3);
    bench.act({ act: 'connect', to: 'reference' });
    const { answerTo } = device(powerMeter(bench));
    return (message: string): string | null => answerTo(message, 'none');
  };
  const errorOf = (message: string): string => {
    const tell = meter();
    tell(message);
    return tell('SYST:ERR?')!.split(',')[0]!;
  };
  it.each([
    ['FOO:BAR', '-113'],
    ['SENS:POW:WAV', '-109'],
    ['SENS:POW:WAV 1310NM,1550NM', '-108'],
    ['*OPC 1', '-108'],
    ['SENS:POW:WAV? 1,2', '-108'],
    ['SENS:POW:WAV 1310S', '-131'],
    ['SENS:POW:WAV 1310DBM', '-131'],
    ['SENS:AVER:COUN 4NM', '-138'],
    ['SENS:POW:WAV "red"', '-104'],
    ['UNIT:POW 5', '-104'],
    ['UNIT:POW FURLONG', '-224'],
    ['SENS:AVER ONCE', '-224'],
    ['SENS:POW:WAV "1310', '-151'],
    ['SENS:POW:WAV 7', '-222'],
    ['SENS:POW:WAV 1400NM', '-222'],
    ['*ESE 300', '-222'],
    ['SENS:POW:WAV 1310NM,', '-102'],
    ['SENSEABCDEFGHIJK:POW 1', '-112'],
    ['FETC:POW?', '-230'],
    ['READ:POW', '-113'],
    ['*IDN', '-113'],
  ])('%s is %s', (message, code) => expect(errorOf(message)).toBe(code));
  it.each([
    ['1310NM', '1.310000E-6'],
    ['1310 NM', '1.310000E-6'],
    ['1.31UM', '1.310000E-6'],
    ['1.55e-3 mm', '1.550000E-6'],
    ['1550E-9', '1.550000E-6'],
    ['.85um', '8.500000E-7'],
    ['MIN', '8.500000E-7'],
    ['MAXimum', '1.625000E-6'],
    ['DEF', '1.310000E-6'],
  ])('a wavelength of %s is %s', (text, shown) => {
    expect(meter()(`SENS:POW:WAV 1490NM;WAV ${text};WAV?`)).toBe(shown);
  });
  it('limits are asked for without a change', () => {
    expect(meter()('SENS:POW:WAV? MIN;WAV? MAX;WAV? DEF;WAV?')).toBe(
      '8.500000E-7;1.625000E-6;1.310000E-6;1.310000E-6',
    );
  });
  it('the path goes on after a semicolon, from the root after a colon, and past common commands', () => {
    expect(meter()('SENS:POW:WAV 1550NM;RANG -20;*OPC?;RANG?;:UNIT:POW?')).toBe('1;-2.00000E+1;DBM');
    expect(unitsOf(':SENS:POW:WAV 1;RANG 2;:READ:POW?').map((u) => 'header' in u && u.header)).toEqual([
      'SENS:POW:WAV',
      'SENS:POW:RANG',
      'READ:POW',
    ]);
    expect(errorOf('SENS:POW:WAV?;UNIT:POW?')).toBe('-113');
    expect(unitsOf('FOO "a;b,c",\'d;e\'')).toEqual([
      { header: 'FOO', asks: false, parameters: ['"a;b,c"', "'d;e'"] },
    ]);
  });
  it('events: switched on, errors by their class, complete; reading them clears them', () => {
    const tell = meter();
    expect(tell('*ESR?')).toBe('128');
    expect(tell('*ESR?')).toBe('0');
    tell('FOO');
    expect(tell('*ESR?')).toBe('32');
    tell('SENS:POW:WAV 7;*OPC');
    expect(tell('*ESR?')).toBe('17');
  });
  it('the status byte: errors, a message, events, and who asks for service', () => {
    const tell = meter();
    tell('*CLS');
    expect(tell('*STB?')).toBe('0');
    expect(tell('*OPC?;*STB?')).toBe('1;16');
    tell('FOO');
    expect(tell('*STB?')).toBe('4');
    tell('*ESE 32');
    expect(tell('*STB?;*ESE?')).toBe('36;32');
    tell('*SRE 255');
    expect(tell('*SRE?')).toBe('191');
    expect(tell('*STB?')).toBe(String(36 | 64));
    // Cleared are events and errors, not what is masked.
    tell('*CLS');
    expect(tell('*STB?;*ESE?;*SRE?')).toBe('0;32;191');
  });
  it('the queue of errors is as long as it is and says that it ran over', () => {
    const tell = meter();
    for (let i = 0; i < 40; i++) tell('FOO');
    expect(tell('SYST:ERR:COUN?')).toBe('20');
    const all = Array.from({ length: 21 }, () => tell('SYSTem:ERRor:NEXT?'));
    expect(all[18]).toBe('-113,"Undefined header"');
    expect(all[19]).toBe('-350,"Queue overflow"');
    expect(all[20]).toBe('0,"No error"');
  });
  it('*RST puts settings back and leaves errors, events and masks alone', () => {
    const tell = meter();
    tell('*CLS;*ESE 1;SENS:POW:WAV 1550NM;:UNIT:POW W;FOO');
    tell('*RST');
    expect(tell('SENS:POW:WAV?;:UNIT:POW?;*ESE?')).toBe('1.310000E-6;DBM;1');
    expect(tell('SYST:ERR?')).toBe('-113,"Undefined header"');
    expect(tell('*ESR?;*TST?;*OPC?;SYST:VERS?')).toBe('32;0;1;1999.0');
    expect(tell('*WAI')).toBeNull();
  });
  it('a reading is started and fetched, averaged, ranged and taken against a reference', () => {
    const tell = meter();
    tell('INIT');
    const [first, second] = tell('FETC:POW?;:FETC:POW?')!.split(';');
    expect(first).toBe(second);
    tell('INIT:CONT ON');
    expect(tell('FETC:POW?')).not.toBe(tell('FETC:POW?'));
    const spread = (message: string): number => {
      const levels = Array.from({ length: 40 }, () => Number(tell(message)));
      return Math.max(...levels) - Math.min(...levels);
    };
    const single = spread('READ:POW?');
    tell('SENS:AVER:COUN 100;:SENS:AVER ON');
    expect(spread('READ:POW?')).toBeLessThan(single / 2);
    tell('SENS:POW:RANG -20DBM');
    expect(tell('SENS:POW:RANG:AUTO?;:READ:POW?')).toBe('0;9.9E+37');
    tell('SENS:POW:RANG:AUTO ON;:SENS:POW:REF -6DBM;REF:STAT ON');
    expect(tell('UNIT:POW?')).toBe('DB');
    expect(Number(tell('READ:POW?'))).toBeCloseTo(1, 1);
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
