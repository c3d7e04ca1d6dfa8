import type { Failure } from './failures.ts';
import { numberFrom } from './parameters.ts';
import { DeviceError, headerIs, type MessageUnit, unitsOf } from './program-message.ts';
import { DeviceStatus } from './status.ts';

export interface Command {
  /** Takes this many parameters as a command, the first of them needed. */
  readonly set?: (parameters: readonly string[], failure: Failure) => void;
  readonly takes?: number;
  readonly needs?: number;
  /** Answers as a query; with a parameter where `asksOf` says so, such as `MAX`. */
  readonly ask?: (parameters: readonly string[], failure: Failure) => string;
  readonly asksOf?: number;
}
/** By long-form header with its short form in capitals, such as `SENSe:POWer:WAVelength`. */
export type CommandTable = Readonly<Record<string, Command>>;

export interface ScpiInstrument {
  /** Answer to *IDN?: maker, model, serial, version. */
  readonly identity: string;
  readonly commands: CommandTable;
  /** *RST: settings as when it was switched on. */
  readonly reset: () => void;
}

/** The SCPI version that the stand-ins follow. */
const VERSION = '1999.0';
const MASK = { least: 0, most: 255, byDefault: 0 };

/** An instrument as one device: its commands, the common ones of IEEE 488.2, and its status. */
export function device(instrument: ScpiInstrument) {
  const status = new DeviceStatus();
  const masked = (get: () => number, set: (mask: number) => void): Command => ({
    takes: 1,
    needs: 1,
    set: ([text]) => set(Math.round(numberFrom(text!, MASK))),
    ask: () => String(get()),
  });
  const common = (waits: () => boolean): CommandTable => ({
    '*IDN': { ask: () => instrument.identity },
    '*RST': { set: () => instrument.reset() },
    '*CLS': { set: () => status.clear() },
    '*OPC': { set: () => status.complete(), ask: () => '1' },
    '*WAI': { set: () => undefined },
    '*TST': { ask: () => '0' },
    '*ESR': { ask: () => String(status.takeEvents()) },
    '*ESE': masked(
      () => status.eventEnable,
      (mask) => (status.eventEnable = mask),
    ),
    '*SRE': masked(
      () => status.serviceEnable,
      (mask) => (status.serviceEnable = mask),
    ),
    '*STB': { ask: () => String(status.byte(waits())) },
    'SYSTem:ERRor[:NEXT]': { ask: () => status.nextError() },
    'SYSTem:ERRor:COUNt': { ask: () => String(status.errorCount()) },
    'SYSTem:VERSion': { ask: () => VERSION },
  });

  /** The response message to a program message: answers of its queries with `;` between them; null where nothing was asked. */
  function answerTo(message: string, failure: Failure): string | null {
    const answers: string[] = [];
    const table = { ...common(() => answers.length > 0), ...instrument.commands };
    for (const unit of unitsOf(message)) {
      try {
        if (unit instanceof DeviceError) throw unit;
        const answer = run(table, unit, failure);
        if (answer !== null) answers.push(answer);
      } catch (error) {
        if (!(error instanceof DeviceError)) throw error;
        status.add(error);
      }
    }
    return answers.length === 0 ? null : answers.join(';');
  }
  return { answerTo, status };
}

function run(table: CommandTable, unit: MessageUnit, failure: Failure): string | null {
  const command = Object.entries(table).find(([pattern]) => headerIs(pattern, unit.header))?.[1];
  const { parameters, asks } = unit;
  if (!command || (asks ? !command.ask : !command.set)) throw new DeviceError('-113');
  const most = asks ? (command.asksOf ?? 0) : (command.takes ?? 0);
  if (parameters.length > most) throw new DeviceError('-108');
  if (!asks && parameters.length < (command.needs ?? 0)) throw new DeviceError('-109');
  if (asks) return command.ask!(parameters, failure);
  command.set!(parameters, failure);
  return null;
}
