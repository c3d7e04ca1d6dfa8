import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import type { Failure } from './failures.ts';
import { commandOf, type CommandTable, type ErrorQueue, errorQueue } from './commands.ts';

export interface ScpiInstrument {
  /** Answer to *IDN?: maker, model, serial, version. */
  readonly identity: string;
  readonly commands: CommandTable;
}

export interface StandIn {
  readonly port: number;
  readonly fail: (failure: Failure) => void;
  readonly failure: () => Failure;
  /** Response messages sent so far. */
  readonly answered: () => number;
  readonly stop: () => Promise<void>;
}

const SLOW_MS = 1500;
const LONGEST_COMMAND = 4096;
const ENDLESS_CHUNK = 'x'.repeat(16_384);
const ENDLESS_BYTES = 1_048_576;

/**
 * A simulated instrument on loopback: program messages end with a line feed, queries of one message are answered in one
 * response message with `;` between them (IEEE 488.2). Errors wait in a queue for SYSTem:ERRor?.
 */
export async function startScpi(instrument: ScpiInstrument, port = 0): Promise<StandIn> {
  let failure: Failure = 'none';
  let answered = 0;
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.setNoDelay(true);
    socket.setEncoding('latin1');
    const queue = errorQueue();
    let kept = '';
    socket.on('data', (chunk) => {
      kept += String(chunk);
      if (kept.length > LONGEST_COMMAND) return socket.destroy();
      for (let end = kept.indexOf('\n'); end >= 0; end = kept.indexOf('\n')) {
        const line = kept.slice(0, end).replace(/\r$/, '');
        kept = kept.slice(end + 1);
        const answer = answerTo(instrument, line, queue, failure);
        if (answer !== null) {
          answered += 1;
          send(socket, answer, failure);
        }
      }
    });
    socket.on('error', () => undefined);
    socket.on('close', () => sockets.delete(socket));
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    port: (server.address() as AddressInfo).port,
    fail: (next) => {
      failure = next;
      if (next === 'disconnect') sockets.forEach((s) => s.destroy());
    },
    failure: () => failure,
    answered: () => answered,
    stop: () => stopServer(server, sockets),
  };
}

function stopServer(server: Server, sockets: Set<Socket>): Promise<void> {
  return new Promise((resolve) => {
    server.close(() => resolve());
    sockets.forEach((s) => s.destroy());
  });
}

/** The response message to one program message, or null where nothing was asked. */
function answerTo(
  instrument: ScpiInstrument,
  line: string,
  queue: ErrorQueue,
  failure: Failure,
): string | null {
  const answers: string[] = [];
  for (const unit of line.split(';')) {
    const text = unit.trim().replace(/^:/, '');
    if (text === '') continue;
    const answer = common(instrument, text, queue) ?? own(instrument, text, queue, failure);
    if (answer !== null && answer !== '') answers.push(answer);
  }
  return answers.length === 0 ? null : answers.join(';');
}

function common(instrument: ScpiInstrument, text: string, queue: ErrorQueue): string | null {
  switch (text.toUpperCase()) {
    case '*IDN?':
      return instrument.identity;
    case '*OPC?':
      return '1';
    case '*CLS':
    case '*RST':
      queue.clear();
      return '';
    case 'SYST:ERR?':
    case 'SYSTEM:ERROR?':
      return queue.next();
    default:
      return null;
  }
}

function own(instrument: ScpiInstrument, text: string, queue: ErrorQueue, failure: Failure): string | null {
  const found = commandOf(instrument.commands, text);
  if (!found) {
    queue.add(-113, 'Undefined header');
    return null;
  }
  try {
    return found.run(found.argument, failure) ?? null;
  } catch {
    queue.add(-222, 'Data out of range');
    return null;
  }
}

function send(socket: Socket, answer: string, failure: Failure): void {
  switch (failure) {
    case 'silent':
      return;
    case 'slow':
      setTimeout(() => !socket.destroyed && socket.write(`${answer}\n`), SLOW_MS);
      return;
    case 'garbage':
      socket.write('\u00ff\u0001%&;;?\n');
      return;
    case 'disconnect':
      socket.destroy();
      return;
    case 'half_a_line':
      socket.end(answer.slice(0, Math.ceil(answer.length / 2)));
      return;
    case 'endless_line':
      for (let sent = 0; sent < ENDLESS_BYTES; sent += ENDLESS_CHUNK.length) socket.write(ENDLESS_CHUNK);
      return;
    default:
      socket.write(`${answer}\n`);
  }
}
