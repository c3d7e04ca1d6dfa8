import { readTraces, type TraceFolder } from './read-trace-folder.ts';

process.once('message', (share: TraceFolder) => {
  process.send!(readTraces(share), () => process.disconnect());
});
