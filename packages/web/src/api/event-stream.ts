export interface EventStream {
  readonly close: () => void;
  /** The browser has given up: it does not try again by itself. */
  readonly isClosed: () => boolean;
}

/**
 * A stream of events of the server: the one doorway to `EventSource`. `heard` gets the text of plain events; named ones go to
 * their own. The browser connects again by itself after a cut; after a refusal it does not.
 */
export function openEventStream(
  path: string,
  heard: (data: string) => void,
  named: Readonly<Record<string, (data: string) => void>> = {},
): EventStream {
  const source = new EventSource(path);
  source.onmessage = ({ data }: MessageEvent<string>) => heard(data);
  for (const [name, hear] of Object.entries(named)) {
    source.addEventListener(name, ({ data }: MessageEvent<string>) => hear(data));
  }
  return {
    close: () => source.close(),
    isClosed: () => source.readyState === EventSource.CLOSED,
  };
}
