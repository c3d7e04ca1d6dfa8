/** What the page sends to a worker: an order with a number of its own. */
export interface NumberedOrder<Order> {
  readonly id: number;
  readonly order: Order;
}

/** What a worker tells of an order: its news, then that it is through, or `lost` when the work ended in an error. */
export type NumberedNews<News> =
  | { readonly id: number; readonly news: News }
  | { readonly id: number; readonly through: true }
  | { readonly id: number; readonly lost: string };
