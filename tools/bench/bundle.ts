import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { WEB_DIR } from '../paths.ts';
import { buildWeb } from '../web-build.ts';
import type { Measured } from './measured.ts';

interface Chunk {
  readonly file: string;
  readonly imports?: readonly string[];
}

/** Compressed script that the bench view needs at first load: the entry and its page, with all they import. */
export async function benchBundle(): Promise<Measured> {
  await buildWeb((line) => console.log(line));
  const manifest = JSON.parse(readFileSync(path.join(WEB_DIR, '.vite/manifest.json'), 'utf8')) as Record<
    string,
    Chunk
  >;
  const files = new Set<string>();
  const visit = (key: string): void => {
    const chunk = manifest[key]!;
    if (files.has(chunk.file)) return;
    files.add(chunk.file);
    (chunk.imports ?? []).forEach(visit);
  };
  visit('index.html');
  visit('src/features/sheet/SheetPage.vue');
  const sizes = [...files].map((file) => gzipSync(readFileSync(path.join(WEB_DIR, file))).length / 1000);
  const charts = [...files].some((file) => /echarts|LossChart/i.test(file));
  return {
    name: 'compressed script at the first load of the bench view',
    ratio: sizes.reduce((a, b) => a + b, 0),
    most: 300,
    unit: 'kB',
    detail: `${files.size} files, gzip; charts among them: ${charts ? 'yes' : 'no'}`,
  };
}
