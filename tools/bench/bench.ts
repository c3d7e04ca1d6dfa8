import { ensureDatabase, removeCluster, startScratchCluster } from '../cluster.ts';
import { benchArchive } from './archive.ts';
import { benchBundle } from './bundle.ts';
import { benchClass } from './class.ts';
import { benchCleaves, benchCleavesLive, benchCleavesMemory, benchCleavesOpenCv } from './cleaves.ts';
import { benchEnds, benchEndsMemory, benchEndsOpenCv } from './ends.ts';
import { benchEndsDrawn } from './ends-drawn.ts';
import { benchDayBound, benchDayPlan, benchDayReplan } from './day-plan.ts';
import { benchDrain } from './drain.ts';
import { benchEntries } from './entries.ts';
import { benchExplain } from './explain.ts';
import { benchFaces, benchFacesMemory, benchFacesOpenCv } from './faces.ts';
import { benchFacesBatch } from './faces-batch.ts';
import { benchFacesPage } from './faces-page.ts';
import { benchFacesLeftOut, benchFacesPractice, benchFacesSet } from './faces-set.ts';
import { benchFaults } from './faults.ts';
import { benchHa } from './ha.ts';
import { benchInstruments } from './instruments.ts';
import { benchLibrary } from './library.ts';
import { benchLoad } from './load.ts';
import { benchDraftCheck, benchPack, benchScoreSheet } from './methods.ts';
import type { Measured } from './measured.ts';
import { benchPartitions } from './partitions.ts';
import { benchRecords } from './records.ts';
import { benchClassReport } from './reports.ts';
import { benchInsight, benchInsightQuantiles, benchResults } from './results.ts';
import { benchTraceBatch } from './trace-batch.ts';
import { benchTraceZoom } from './trace-zoom.ts';
import { benchTraceAnalysis, benchTraceRead } from './traces.ts';
import { benchWhatIf } from './what-if.ts';
import { benchWhatIfStop } from './what-if-stop.ts';
import { benchScore } from './score.ts';
import { benchStatsReml, benchStatsSearch, benchStatsSummary } from './stats.ts';
import { benchCleavesDrawn, benchSplicesDrawn } from './side-views-drawn.ts';
import { benchTap, benchTapWithGrids } from './tap.ts';
import { benchTimers } from './timers.ts';

const BENCHES: Readonly<Record<string, (url: string) => Promise<Measured>>> = {
  score: () => Promise.resolve(benchScore()),
  results: (url) => benchResults(url),
  records: (url) => benchRecords(url),
  bundle: () => benchBundle(),
  library: () => Promise.resolve(benchLibrary()),
  pack: (url) => benchPack(url),
  'draft-check': () => benchDraftCheck(),
  archive: (url) => benchArchive(url),
  partitions: (url) => benchPartitions(url),
  'class-report': (url) => benchClassReport(url),
  'score-sheet': () => benchScoreSheet(),
  tap: (url) => benchTap(url),
  'tap-grids': (url) => benchTapWithGrids(url),
  timers: (url) => benchTimers(url),
  drain: (url) => benchDrain(url),
  entries: () => benchEntries(),
  load: () => benchLoad(),
  faults: () => benchFaults(),
  ha: () => benchHa(),
  explain: () => Promise.resolve(benchExplain()),
  instruments: (url) => benchInstruments(url),
  class: (url) => benchClass(url),
  faces: () => Promise.resolve(benchFaces()),
  'faces-opencv': () => benchFacesOpenCv(),
  cleaves: () => Promise.resolve(benchCleaves()),
  'cleaves-opencv': () => benchCleavesOpenCv(),
  'cleaves-memory': () => benchCleavesMemory(),
  'cleaves-live': () => Promise.resolve(benchCleavesLive()),
  ends: () => benchEnds(),
  'ends-opencv': () => benchEndsOpenCv(),
  'ends-memory': () => benchEndsMemory(),
  'ends-drawn': () => benchEndsDrawn(),
  'cleaves-drawn': () => Promise.resolve(benchCleavesDrawn()),
  'splices-drawn': () => Promise.resolve(benchSplicesDrawn()),
  'faces-memory': () => benchFacesMemory(),
  'faces-batch': () => benchFacesBatch(),
  'faces-page': (url) => benchFacesPage(url),
  'faces-set': () => benchFacesSet('ours'),
  'faces-other': () => benchFacesSet('other'),
  'faces-small-scope': () => benchFacesSet('small_scope'),
  'faces-slanted-light': () => benchFacesSet('slanted_light'),
  'faces-practice': () => benchFacesPractice(),
  'faces-left-out': () => benchFacesLeftOut(),
  'trace-read': () => Promise.resolve(benchTraceRead()),
  'trace-analysis': () => Promise.resolve(benchTraceAnalysis()),
  'trace-batch': () => benchTraceBatch(),
  'trace-zoom': (url) => benchTraceZoom(url),
  'day-bound': () => Promise.resolve(benchDayBound()),
  'day-plan': () => Promise.resolve(benchDayPlan()),
  'day-replan': () => Promise.resolve(benchDayReplan()),
  insight: (url) => benchInsight(url),
  'insight-quantiles': (url) => benchInsightQuantiles(url),
  'what-if': (url) => benchWhatIf(url),
  'what-if-stop': () => benchWhatIfStop(),
  'stats-reml': () => benchStatsReml(),
  'stats-summary': () => Promise.resolve(benchStatsSummary()),
  'stats-search': () => Promise.resolve(benchStatsSearch()),
};

/** What is long to load is loaded once for those that read it alone. */
const SHARED: Readonly<Record<string, string>> = { 'insight-quantiles': 'insight' };

/** Runs the benchmarks (all, or those named) and prints them as a table. Fails when one is over its goal. */
export async function runBench(args: readonly string[]): Promise<number> {
  const names = args.length > 0 ? args : Object.keys(BENCHES);
  const unknown = names.filter((n) => !(n in BENCHES));
  if (unknown.length > 0) {
    console.error(`No bench ${unknown.join(', ')}; there are ${Object.keys(BENCHES).join(', ')}.`);
    return 2;
  }
  const name = `bench-${process.pid}`;
  const cluster = await startScratchCluster(name, { temporary: true });
  const rows: Measured[] = [];
  try {
    for (const bench of names) {
      const database = `bench_${SHARED[bench] ?? bench}`;
      await ensureDatabase(cluster, database);
      rows.push(await BENCHES[bench]!(cluster.url(database)));
    }
  } finally {
    await removeCluster(cluster);
  }
  console.log(`\n${'bench'.padEnd(58)} ${'measured'.padStart(12)} ${'goal'.padStart(12)}`);
  for (const r of rows) {
    if (r.notMeasured) {
      console.log(`${r.name.padEnd(58)} not measured: ${r.notMeasured}\n  ${r.detail}`);
      continue;
    }
    const mark = r.ratio <= r.most ? '' : '  OVER';
    const show = (x: number): string => (r.unit === 'kB' ? `${x.toFixed(0)} kB` : `${x.toFixed(2)} x`);
    console.log(`${r.name.padEnd(58)} ${show(r.ratio).padStart(12)} ${show(r.most).padStart(12)}${mark}`);
    console.log(`  ${r.detail}`);
  }
  return rows.every((r) => r.ratio <= r.most) ? 0 : 1;
}
