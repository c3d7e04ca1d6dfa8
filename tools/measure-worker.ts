import { measureFile, type MeasureOrder } from './measure-file.ts';

process.on('message', (order: MeasureOrder) => {
  void measureFile(order).then((result) => process.send!(result));
});
