import type { NumberedNews, NumberedOrder } from './protocol.ts';

/**
 * The worker's side: does the work of each order as it comes, and tells its news under the order's number. An error that the
 * work throws is told as its loss.
 */
export function answerOrders<Order, News>(
  work: (order: Order, tell: (news: News) => void) => Promise<void>,
): void {
  const post = (message: NumberedNews<News>): void => self.postMessage(message);
  self.onmessage = ({ data: { id, order } }: MessageEvent<NumberedOrder<Order>>) => {
    work(order, (news) => post({ id, news })).then(
      () => post({ id, through: true }),
      (error: unknown) => post({ id, lost: String(error) }),
    );
  };
}
