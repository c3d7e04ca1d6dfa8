import { errorWords } from '@clear-mark/words';

/** Far ports from typed or pasted text, in the order of the near ones; or what is wrong with it, in words. */
export function mapFromText(text: string, ports: number): readonly number[] | string {
  const given = text.split(/[\s,;]+/).filter((t) => t !== '');
  if (given.length !== ports) return errorWords('map.wrong_length', { ports, given: given.length });
  const first = new Map<number, number>();
  const far: number[] = [];
  for (const [i, word] of given.entries()) {
    const port = Number(word);
    if (!/^\d+$/.test(word) || port > ports) {
      return errorWords('map.no_such_port', { given: word.slice(0, 8), ports });
    }
    const before = first.get(port);
    if (port !== 0 && before !== undefined) {
      return errorWords('map.port_twice', { port, first: before, second: i + 1 });
    }
    first.set(port, i + 1);
    far.push(port);
  }
  return far;
}
