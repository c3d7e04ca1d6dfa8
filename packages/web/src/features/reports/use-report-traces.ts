import { analyseTrace, linkLoss, linkOnTrace, openTraceFile } from '@clear-mark/core';
import { ROUTES, type TraceRow } from '@clear-mark/contract';
import type { ReportTrace } from '@clear-mark/paper';
import { type ShallowRef, shallowRef, watch } from 'vue';
import { askOnce } from '../../api/queries.ts';
import { fetchTrace } from '../../api/trace-files.ts';

async function reportTrace(classId: string, row: TraceRow): Promise<ReportTrace> {
  const { traces, marksM } = openTraceFile(new Uint8Array(await fetchTrace(classId, row.id)));
  const trace = traces[0]!;
  const analysis = analyseTrace(trace);
  const range = linkOnTrace(analysis, marksM, row.launchM, row.receiveM);
  return { row, events: analysis.events, loss: linkLoss(trace, analysis, range) };
}

/** The traces that are kept with a piece, with what is on them; null until they are there. One that is lost is left out. */
export function useReportTraces(
  classId: string,
  attemptId: () => string | null,
): ShallowRef<readonly ReportTrace[] | null> {
  const traces = shallowRef<readonly ReportTrace[] | null>(null);
  watch(
    attemptId,
    async (id) => {
      traces.value = null;
      if (id === null) return;
      const rows = await askOnce(ROUTES.traces, { params: { id: classId } }).catch((): TraceRow[] => []);
      const own = rows.filter((r) => r.attemptId === id);
      const read = await Promise.allSettled(own.map((row) => reportTrace(classId, row)));
      if (attemptId() !== id) return;
      traces.value = read.flatMap((r) => (r.status === 'fulfilled' ? [r.value] : []));
    },
    { immediate: true },
  );
  return traces;
}
