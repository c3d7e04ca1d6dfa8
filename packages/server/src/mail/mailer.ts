import { createTransport } from 'nodemailer';
import { isLoopback, type MailSettings } from '../config.ts';
import { AppError } from '../errors/app-error.ts';

export interface Mail {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
}

/** How long a mail server may take for each step. */
const STEP_MS = 10_000;

/**
 * Hands a mail to the school's mail server, which does the rest. Beyond this machine it goes by TLS or not at all. Error:
 * `mail.refused`, with what the server said.
 */
export async function sendMail({ server, from }: MailSettings, mail: Mail): Promise<void> {
  const { hostname, protocol } = new URL(server);
  const transport = createTransport(
    {
      url: server,
      requireTLS: protocol === 'smtp:' && !isLoopback(hostname),
      connectionTimeout: STEP_MS,
      greetingTimeout: STEP_MS,
      socketTimeout: STEP_MS,
      disableFileAccess: true,
      disableUrlAccess: true,
    },
    { from },
  );
  try {
    await transport.sendMail(mail);
  } catch (error) {
    const { response, code } = error as { response?: string; code?: string };
    throw new AppError('mail.refused', { answer: (response ?? code ?? 'no answer').slice(0, 200) });
  } finally {
    transport.close();
  }
}
