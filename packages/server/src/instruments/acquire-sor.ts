import type { Database } from '../database/database.ts';
import { AppError } from '../errors/app-error.ts';
import { responseElements } from '@clear-mark/core';
import { foundInstrument } from './instruments.store.ts';
import { ScpiFailure, ScpiSession } from './scpi-session.ts';

/** How an OTDR is set: wavelength and pulse, the range that it looks over, and how often it averages. */
export interface OtdrOrder {
  readonly wavelengthNm: number;
  readonly pulseNs: number;
  readonly rangeM: number;
  readonly averages: number;
  readonly groupIndex: number;
}

/** A trace takes its time: minutes at most. */
const TIMES = { connectMs: 2000, answerMs: 200_000, longestMessage: 4_000_000 };

/**
 * Sets an OTDR of the class, lets it take a trace, and gives the file that it answers with (a definite-length block, IEEE 488.2).
 * Errors: `not_found.instrument`, `trace.no_otdr`, `instrument.no_answer`, `instrument.refused` with what it says of a setting.
 */
export async function acquireSor(
  db: Database,
  classId: string,
  thingId: string,
  order: OtdrOrder,
): Promise<Buffer> {
  const { kind, host, port } = await foundInstrument(db)(classId, thingId);
  if (kind !== 'otdr' || host === null || port === null) throw new AppError('trace.no_otdr');
  try {
    const session = await ScpiSession.open({ host, port }, TIMES);
    try {
      return await take(session, order);
    } finally {
      session.close();
    }
  } catch (error) {
    if (error instanceof ScpiFailure) throw new AppError('instrument.no_answer');
    throw error;
  }
}

async function take(session: ScpiSession, order: OtdrOrder): Promise<Buffer> {
  session.send('*CLS');
  const settings = [
    `SOUR:WAV ${order.wavelengthNm}E-9`,
    `SOUR:PULS:WIDT ${order.pulseNs}E-9`,
    `SENS:RANG:DIST ${order.rangeM}`,
    `SENS:AVER:COUN ${order.averages}`,
    `SENS:IND ${order.groupIndex}`,
  ];
  for (const setting of settings) {
    session.send(setting);
    const [code, words] = responseElements(await session.query('SYST:ERR?'));
    if (Number(code) !== 0) {
      throw new AppError('instrument.refused', { problem: `${setting}: ${words ?? code ?? ''}` });
    }
  }
  session.send('INIT');
  await session.query('*OPC?');
  return blockOf(await session.query('TRAC:DATA?'));
}

/** The bytes of a definite-length block: #, the number of digits, the length, the bytes. */
function blockOf(message: string): Buffer {
  const digits = Number(message[1]);
  const length = Number(message.slice(2, 2 + digits));
  const bytes = Buffer.from(message.slice(2 + digits, 2 + digits + length), 'latin1');
  const whole = message.startsWith('#') && digits > 0 && Number.isInteger(length) && bytes.length === length;
  if (!whole || length === 0) throw new AppError('trace.no_otdr');
  return bytes;
}
