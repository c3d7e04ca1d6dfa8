import type { ChannelPart } from '../sheet/index.ts';
import { composeMaps, trunkMap } from './trunk-map.ts';

export interface Channel {
  readonly ports: number;
  readonly parts: readonly ChannelPart[];
}

/** The far position of each near one of a part. Errors as `trunkMap`. */
export function partMap(part: ChannelPart, ports: number): readonly number[] {
  switch (part.kind) {
    case 'cords':
      return trunkMap(part.crossed ? 'C' : 'A', ports);
    case 'cassette':
      return trunkMap(part.turned ? 'B' : 'A', ports);
    case 'trunk':
      return trunkMap(part.type, ports);
    default: {
      const never: never = part;
      return never;
    }
  }
}

/**
 * End to end: far cassette (trunk (near cassette (port))). A channel without parts is straight through.
 * Errors: `map.bad_ports`. Example: a type B trunk between two cassettes of which one is turned is straight through.
 */
export function channelMap(channel: Channel): readonly number[] {
  const maps = channel.parts.map((part) => partMap(part, channel.ports));
  return maps.length === 0 ? trunkMap('A', channel.ports) : composeMaps(...maps);
}
