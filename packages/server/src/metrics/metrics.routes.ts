import type { Request, Response, Router } from 'express';
import { isLoopback } from '../config.ts';
import { AppError } from '../errors/app-error.ts';
import type { Metrics } from './metrics.ts';

/** Where a collector on this machine reads what the process does. */
const PATH = '/metrics';

/**
 * For this machine alone: what came over a proxy carries whom it came for, and there is nothing at this address for others.
 */
export function metricsRoutes(router: Router, metrics: Metrics): void {
  router.get(PATH, async (request: Request, response: Response) => {
    const from = (request.socket.remoteAddress ?? '').replace(/^::ffff:/, '');
    const forwarded = request.headers['x-forwarded-for'] ?? request.headers['forwarded'];
    if (!isLoopback(from) || forwarded !== undefined) throw new AppError('request.unknown_route');
    response.set('Content-Type', metrics.contentType).send(await metrics.text());
  });
}
