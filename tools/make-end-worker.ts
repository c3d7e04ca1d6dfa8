import { type EndOrder, makeEnd } from './make-ends.ts';

process.on('message', (order: EndOrder) => {
  void makeEnd(order).then((result) => process.send!(result));
});
