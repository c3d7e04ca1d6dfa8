import { AppError } from '../errors/app-error.ts';

const ANSWER_MS = 2000;

/** The piece on the simulated bench, in the demo. Errors: `auth.demo_only`, `instrument.no_answer`. */
export const standInPiece = (port: number | null): Promise<unknown> => ask(port, { method: 'GET' });

/** An act on the simulated bench. Errors: also `instrument.refused` with what was wrong. */
export const orderStandIns = (port: number | null, order: unknown): Promise<unknown> =>
  ask(port, { method: 'POST', body: JSON.stringify(order) });

async function ask(port: number | null, request: RequestInit): Promise<unknown> {
  if (port === null) throw new AppError('auth.demo_only');
  let response: Response;
  try {
    response = await fetch(`http://127.0.0.1:${port}/`, {
      ...request,
      signal: AbortSignal.timeout(ANSWER_MS),
    });
  } catch {
    throw new AppError('instrument.no_answer');
  }
  const body = (await response.json()) as { error?: string };
  if (!response.ok) throw new AppError('instrument.refused', { problem: body.error ?? '' });
  return body;
}
