import { isErrorCode } from '@clear-mark/contract';
import {
  analyseTrace,
  DomainError,
  judgeTraceEvents,
  openTraceFile,
  sorOfTrace,
  traceGroups,
  writeSor,
} from '@clear-mark/core';
import { lossRulesFor } from '@clear-mark/methods/loss';
import { rngFrom, seriesTrace } from '@clear-mark/sim';
import { errorWords } from '@clear-mark/words';
import { answerOrders } from '../../../../workers/answer-orders.ts';
import type { MakeOrder, OpenOrder, TraceNews, TraceOrder } from './trace-orders.ts';

answerOrders<TraceOrder, TraceNews>(async (order, tell) => {
  if (order.order === 'open') tell(opened(order));
  else for (const bytes of made(order)) tell({ news: 'made', bytes });
});

function opened({ bytes, blind }: OpenOrder): TraceNews {
  try {
    const { traces, table, marksM } = openTraceFile(new Uint8Array(bytes));
    return {
      news: 'opened',
      traces: traces.map((trace) => ({
        trace,
        groups: traceGroups(trace),
        analysis: blind ? null : analyseTrace(trace),
      })),
      table,
      marksM,
    };
  } catch (error) {
    if (error instanceof DomainError && isErrorCode(error.code)) {
      return { news: 'problem', words: errorWords(error.code, error.params) };
    }
    throw error;
  }
}

const NO_LABELS = { cableId: '', fiberId: '', from: '', to: '', operator: '', comment: '', takenAtS: 0 };

function* made({ count, seed }: MakeOrder): Generator<Uint8Array<ArrayBuffer>> {
  const rules = lossRulesFor('OS2', 'one_cord');
  const limits = { connectionDb: rules.connectionDb.db, spliceDb: rules.spliceDb.db };
  let drawn = 0;
  for (const wanted of Array.from({ length: count }, (_, i) => (i % 2 === 0 ? 'fail' : 'pass'))) {
    for (;;) {
      const trace = seriesTrace(rngFrom(seed + drawn++));
      if (judgeTraceEvents(analyseTrace(trace), limits) !== wanted) continue;
      yield new Uint8Array(writeSor(sorOfTrace(trace, NO_LABELS)));
      break;
    }
  }
}
