import { describe, expect, it } from 'vitest';
import { readOptions } from './options.ts';

describe('options of demo and start', () => {
  it('are read', () => {
    expect(readOptions([])).toEqual({ port: null, host: '127.0.0.1', tlsCert: null, tlsKey: null });
    expect(readOptions(['--port', '5000', '--host', '0.0.0.0', '--tls-cert', 'c', '--tls-key=k'])).toEqual({
      port: 5000,
      host: '0.0.0.0',
      tlsCert: 'c',
      tlsKey: 'k',
    });
  });
  it.each([[['--port', 'x']], [['--port', '70000']], [['--colour', 'red']], [['stray']]])(
    '%j is refused',
    (args) => {
      expect(() => readOptions(args)).toThrow(/port|help/);
    },
  );
});
