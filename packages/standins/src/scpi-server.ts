import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import type { Failure } from './failures.ts';
import { device, type ScpiInstrument } from './device.ts';

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
 * response message with `;` between them (IEEE 488.2). Status and errors are the device's, whoever asks for them.
 */
export async function startScpi(instrument: ScpiInstrument, port = 0): Promise<StandIn> {
  let failure: Failure = 'none';
  let answered = 0;
  const sockets = new Set<Socket>();
  const { answerTo } = device(instrument);
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.setNoDelay(true);
    socket.setEncoding('latin1');
    let kept = '';
    socket.on('data', (chunk) => {
      kept += String(chunk);
      for (let end = kept.indexOf('\n'); end >= 0; end = kept.indexOf('\n')) {
        const line = kept.slice(0, end).replace(/\r$/, '');
        kept = kept.slice(end + 1);
        if (line.length > LONGEST_COMMAND) return socket.destroy();
        const answer = answerTo(line, failure);
        if (answer !== null) {
          answered += 1;
          send(socket, answer, failure);
        }
      }
      // What is whole was taken: only a line that does not end can be too long here.
      if (kept.length > LONGEST_COMMAND) socket.destroy();
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

function send(socket: Socket, answer: string, failure: Failure): void {
  switch (failure) {
    case 'silent':
      return;
    case 'slow':
      setTimeout(() => !socket.destroyed && socket.write(`${answer}\n`, 'latin1'), SLOW_MS);
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
      socket.write(`${answer}\n`, 'latin1');
  }
}
