import { connect, type Socket } from 'node:net';

/**
 * One keep-alive connection that sends a request and waits for its answer, with as little work of its own as can be: on a
 * machine of two cores a client that parses much would be measured with the server.
 */
export class RawClient {
  private waiting: ((answer: { status: number; body: string }) => void) | null = null;
  private text = '';
  private constructor(
    private readonly socket: Socket,
    private readonly host: string,
    private readonly cookie: string,
  ) {
    socket.setEncoding('latin1');
    socket.setNoDelay(true);
    socket.on('data', (part) => this.take(String(part)));
  }

  static open(url: string, cookie: string): Promise<RawClient> {
    const { hostname, port, host } = new URL(url);
    return new Promise((resolve, reject) => {
      const socket = connect({ host: hostname, port: Number(port) }, () =>
        resolve(new RawClient(socket, host, cookie)),
      );
      socket.once('error', reject);
    });
  }

  post(path: string, body: unknown): Promise<{ status: number; body: string }> {
    const text = JSON.stringify(body);
    const head = [
      `POST /api${path} HTTP/1.1`,
      `Host: ${this.host}`,
      `Cookie: ${this.cookie}`,
      'Content-Type: application/json',
      `Content-Length: ${Buffer.byteLength(text)}`,
    ];
    return new Promise((resolve) => {
      this.waiting = resolve;
      this.socket.write(`${head.join('\r\n')}\r\n\r\n${text}`);
    });
  }

  close(): void {
    this.socket.destroy();
  }

  private take(part: string): void {
    this.text += part;
    const end = this.text.indexOf('\r\n\r\n');
    if (end < 0) return;
    const length = Number(/content-length: (\d+)/i.exec(this.text)?.[1] ?? Number.NaN);
    if (this.text.length < end + 4 + length) return;
    const answer = {
      status: Number(this.text.slice(9, 12)),
      body: this.text.slice(end + 4, end + 4 + length),
    };
    this.text = this.text.slice(end + 4 + length);
    const { waiting } = this;
    this.waiting = null;
    waiting?.(answer);
  }
}

/** Signs in to the demo; gives the cookie of the session and the person. */
export async function signIn(url: string, role: string): Promise<{ cookie: string; me: string }> {
  const reply = await fetch(`${url}/api/session/demo`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ role }),
  });
  const cookie = reply.headers.get('set-cookie')!.split(';')[0]!;
  return { cookie, me: ((await reply.json()) as { id: string }).id };
}
