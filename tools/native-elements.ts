import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './paths.ts';

/** What Element Plus has a component of its own for. */
export const NATIVE = ['select', 'textarea', 'input', 'table', 'button'] as const;
export type NativeElement = (typeof NATIVE)[number];

/** Where a control is our own, with the reason; folders end with a slash. Everything else stands on Element Plus. */
export const OWN_CONTROLS: Readonly<Record<string, string>> = {
  'features/sheet/': 'a criterion is scored in one tap or by typing at once, many of them on one sheet',
  'shared/MapField.vue': 'the ports of a walk, typed one after the other',
  'shared/PortWalk.vue': 'the ports of a walk, tapped one after the other',
  'features/today/BenchTile.vue': 'a bench is a tile that is tapped',
  'features/faces/inspect/KeptFaces.vue': 'a picture is a tile that is tapped',
  'features/faces/calls/CallsPanel.vue': 'pictures are picked as tiles, a series is a line that opens',
  'features/records/RecordsTable.vue': 'a box a line, made at once while 100,000 lines are scrolled',
  'features/methods/editor/StepOutline.vue':
    'a line is chosen by a tap, dragged, and moved by Alt and an arrow',
  'features/faces/inspect/FeatureTable.vue': 'a line of the list lights its place in the picture',
};

export interface Found {
  /** From `packages/web/src`, with forward slashes. */
  readonly file: string;
  readonly element: NativeElement;
  readonly times: number;
}

const WEB = path.join(ROOT, 'packages/web/src');

/** The native elements that a component's template or render functions make, by name; comments do not count. */
export function nativesOf(component: string): Map<NativeElement, number> {
  const rendered = [...component.matchAll(/\bh\(\s*'(\w+)'/g)].map(([, name]) => `<${name} `).join('');
  const template = component
    .replace(/<script[\s\S]*?<\/script>/g, rendered)
    .replace(/<style[\s\S]*?<\/style>/g, '')
    .replace(/<!--[\s\S]*?-->/g, '');
  const found = new Map<NativeElement, number>();
  for (const element of NATIVE) {
    const times = template.match(new RegExp(`<${element}(?=[\\s>/])`, 'g'))?.length ?? 0;
    if (times > 0) found.set(element, times);
  }
  return found;
}

/** Every component of the page with native elements, in the order of their files. */
export const allNatives = (): Found[] =>
  readdirSync(WEB, { recursive: true, encoding: 'utf8' })
    .map((file) => file.replaceAll(path.sep, '/'))
    .filter((file) => file.endsWith('.vue'))
    .sort()
    .flatMap((file) =>
      [...nativesOf(readFileSync(path.join(WEB, file), 'utf8'))].map(([element, times]) => ({
        file,
        element,
        times,
      })),
    );

export const isOwnControl = (file: string): boolean =>
  Object.keys(OWN_CONTROLS).some((own) => file === own || (own.endsWith('/') && file.startsWith(own)));

/** Outside the listed own controls. */
export const strays = (found: readonly Found[]): Found[] => found.filter(({ file }) => !isOwnControl(file));

if (process.argv[1] === import.meta.filename) {
  const found = allNatives();
  for (const element of NATIVE) {
    const sum = (list: readonly Found[]): number =>
      list.filter((f) => f.element === element).reduce((n, f) => n + f.times, 0);
    const outside = found.filter((f) => !isOwnControl(f.file));
    console.log(`${element}: ${sum(outside)} outside the own controls, ${sum(found) - sum(outside)} in them`);
  }
}
