import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';

export interface MailboxOptions {
  readonly port?: number;
  /** A mail that came, whole as it was sent (RFC 5322). */
  readonly onMail: (mail: {
    readonly from: string;
    readonly to: readonly string[];
    readonly text: string;
  }) => void;
  /** Addresses that are refused, to see what becomes of it. */
  readonly refuses?: (to: string) => boolean;
}

/** A simulated mail server on loopback (RFC 5321): it takes mails and delivers none. */
export async function startMailbox(
  options: MailboxOptions,
): Promise<{ readonly port: number; readonly stop: () => Promise<void> }> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    logger: false,
    onRcptTo: ({ address }, _, done) => {
      done(options.refuses?.(address) ? new Error('550 no such mailbox here') : null);
    },
    onData: (stream, { envelope }, done) => {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        const from = envelope.mailFrom ? envelope.mailFrom.address : '';
        const to = envelope.rcptTo.map((r) => r.address);
        options.onMail({ from, to, text: Buffer.concat(parts).toString('utf8') });
        done();
      });
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port ?? 0, '127.0.0.1', resolve);
  });
  return {
    port: (server.server.address() as AddressInfo).port,
    stop: () => new Promise((resolve) => void server.close(resolve)),
  };
}
