import { createServer } from 'node:http';
import { z } from 'zod';
import type { SimulatedBench } from './bench.ts';
import { FAILURES } from './failures.ts';
import { listenOnLoopback, textOf } from './loopback.ts';
import type { StandIn } from './scpi-server.ts';

const End = z.enum(['near', 'far']);
const Order = z.discriminatedUnion('act', [
  z.object({ act: z.literal('fail'), instrument: z.string(), how: z.enum(FAILURES) }),
  z.object({ act: z.literal('cleave'), side: z.enum(['left', 'right']), care: z.number().min(0).max(1) }),
  z.object({ act: z.literal('fuse') }),
  z.object({ act: z.literal('clean'), end: End }),
  z.object({ act: z.literal('touch'), end: End }),
  z.object({ act: z.literal('connect'), to: z.enum(['reference', 'link', 'nothing']) }),
  z.object({ act: z.literal('disturb'), db: z.number().min(-10).max(30) }),
  z.object({ act: z.literal('bend'), radiusMm: z.number().positive() }),
  z.object({ act: z.literal('ports'), far: z.array(z.number().int().min(0)).max(144) }),
  z.object({ act: z.literal('fiber'), fiber: z.number().int().min(1).max(144) }),
  z.object({
    act: z.literal('otdr'),
    end: End,
    launchM: z.number().min(0).max(5000),
    receiveM: z.number().min(0).max(5000),
  }),
]);
export type Order = z.infer<typeof Order>;

const LONGEST_ORDER = 16_384;

/** Hands of the simulated bench: takes orders as JSON by POST, shows the piece by GET. On loopback only. */
export async function startControl(
  bench: SimulatedBench,
  standIns: Readonly<Record<string, StandIn>>,
  port = 0,
): Promise<{ port: number; stop: () => Promise<void> }> {
  const obey = (order: Order): void => {
    if (order.act === 'fail') {
      const standIn = standIns[order.instrument];
      if (!standIn) throw new Error(`There is no instrument ${order.instrument}`);
      standIn.fail(order.how);
    } else if (order.act === 'fiber') bench.fiber = order.fiber;
    else if (order.act === 'otdr')
      bench.otdr = { end: order.end, launchM: order.launchM, receiveM: order.receiveM };
    else bench.act(order);
  };
  const server = createServer((request, response) => {
    const reply = (status: number, body: unknown): void => {
      response.writeHead(status, { 'Content-Type': 'application/json' }).end(JSON.stringify(body));
    };
    if (request.method === 'GET')
      return reply(200, { piece: bench.piece(), otdr: bench.otdr, instruments: Object.keys(standIns) });
    textOf(request, LONGEST_ORDER)
      .then((text) => {
        const order = Order.safeParse(JSON.parse(text));
        if (!order.success) return reply(422, { error: order.error.issues[0]!.message });
        obey(order.data);
        reply(200, { piece: bench.piece(), otdr: bench.otdr });
      })
      .catch((error: Error) => reply(422, { error: error.message }));
  });
  return listenOnLoopback(server, port);
}
