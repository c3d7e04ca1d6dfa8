import type { Trace, TraceAnalysis } from '@clear-mark/core';

/** What is known of a trace that nobody has looked through: that it goes to its last point. */
export function nothingKnown(trace: Trace): TraceAnalysis {
  const toM = trace.firstM + (trace.levelsDb.length - 1) * trace.spacingM;
  const line = { level: 0, slope: 0, centre: 0, n: 1, sxx: 1, sd: 0 };
  return {
    events: [],
    spans: [],
    joined: [],
    lines: [{ fromM: trace.firstM, toM, line }],
    endSeen: false,
  };
}
