import { describe, expect, it } from 'vitest';
import { readOptions } from './options.ts';

describe('options of demo and start', () => {
  it('are read', () => {
    const none = {
      processes: 1,
      behindProxy: false,
      data: null,
      moveData: false,
      instruments: null,
      names: null,
      backupTo: null,
      schools: false,
      clusters: null,
    };
    expect(readOptions([])).toEqual({ ...none, port: null, host: '127.0.0.1', tlsCert: null, tlsKey: null });
    expect(readOptions(['--port', '5000', '--host', '0.0.0.0', '--tls-cert', 'c', '--tls-key=k'])).toEqual({
      ...none,
      port: 5000,
      host: '0.0.0.0',
      tlsCert: 'c',
      tlsKey: 'k',
    });
    expect(
      readOptions(['--data', '/srv/x', '--move-data', '--instruments', '192.0.2.0/24', '--backup-to=/mnt']),
    ).toMatchObject({ data: '/srv/x', moveData: true, instruments: '192.0.2.0/24', backupTo: '/mnt' });
  });
  it.each([
    [['--port', 'x']],
    [['--port', '70000']],
    [['--processes', '0']],
    [['--processes', 'many']],
    [['--colour', 'red']],
    [['stray']],
  ])('%j is refused', (args) => {
    expect(() => readOptions(args)).toThrow(/port|processes|help/);
  });
});
