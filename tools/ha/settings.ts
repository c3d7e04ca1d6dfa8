/** The ports of one node, all on loopback. */
export interface NodePorts {
  readonly name: string;
  readonly database: number;
  readonly rest: number;
  readonly etcdClient: number;
  readonly etcdPeer: number;
}
export interface Secrets {
  readonly owner: string;
  readonly replication: string;
}

/** A leader that says nothing for so long is one no more; the least that Patroni takes. */
const TTL_S = 20;
const LOOP_S = 2;
const RETRY_S = 5;
/** A standby this far behind is no standby to read from, and none to become the leader. */
const MOST_LAG_BYTES = 16 * 1024 ** 2;

export const etcdArguments = (own: NodePorts, all: readonly NodePorts[], dataDir: string): string[] => {
  const client = `http://127.0.0.1:${own.etcdClient}`;
  const peer = (n: NodePorts): string => `http://127.0.0.1:${n.etcdPeer}`;
  return [
    `--name=${own.name}`,
    `--data-dir=${dataDir}`,
    `--listen-client-urls=${client}`,
    `--advertise-client-urls=${client}`,
    `--listen-peer-urls=${peer(own)}`,
    `--initial-advertise-peer-urls=${peer(own)}`,
    `--initial-cluster=${all.map((n) => `${n.name}=${peer(n)}`).join(',')}`,
    '--initial-cluster-token=clear-mark',
    '--log-level=error',
  ];
};

/**
 * The settings of Patroni on one node (Patroni documentation, YAML Configuration Settings): what is committed is on a standby as
 * well before it is acknowledged.
 */
export const patroniSettings = (
  own: NodePorts,
  all: readonly NodePorts[],
  { dataDir, bin, secrets }: { readonly dataDir: string; readonly bin: string; readonly secrets: Secrets },
): string =>
  // JSON is YAML as well.
  JSON.stringify({
    scope: 'clear-mark',
    name: own.name,
    log: { level: 'WARNING' },
    restapi: { listen: `127.0.0.1:${own.rest}`, connect_address: `127.0.0.1:${own.rest}` },
    etcd3: { hosts: all.map((n) => `127.0.0.1:${n.etcdClient}`) },
    bootstrap: {
      dcs: {
        ttl: TTL_S,
        loop_wait: LOOP_S,
        retry_timeout: RETRY_S,
        maximum_lag_on_failover: MOST_LAG_BYTES,
        synchronous_mode: true,
        postgresql: {
          use_pg_rewind: true,
          parameters: {
            max_connections: 60,
            shared_buffers: '64MB',
            work_mem: '32MB',
            jit: 'off',
            wal_keep_size: '256MB',
            unix_socket_directories: '',
          },
        },
      },
      initdb: [{ encoding: 'UTF8' }, { locale: 'C.UTF-8' }, 'data-checksums'],
    },
    postgresql: {
      listen: `127.0.0.1:${own.database}`,
      connect_address: `127.0.0.1:${own.database}`,
      data_dir: dataDir,
      bin_dir: bin,
      pgpass: `${dataDir}.pgpass`,
      pg_hba: [
        'host all all 127.0.0.1/32 scram-sha-256',
        'host replication replicator 127.0.0.1/32 scram-sha-256',
      ],
      authentication: {
        superuser: { username: 'postgres', password: secrets.owner },
        replication: { username: 'replicator', password: secrets.replication },
        rewind: { username: 'postgres', password: secrets.owner },
      },
    },
  });

/** Two doors: to the leader, and to the standbys that keep up; a leader that is one no more loses its connections at once. */
export const haproxySettings = (
  nodes: readonly NodePorts[],
  leaderPort: number,
  standbysPort: number,
): string => `global
    maxconn 400
defaults
    mode tcp
    retries 1
    timeout connect 2s
    timeout check 2s
    timeout client 1h
    timeout server 1h
${door('leader', leaderPort, '/primary', nodes)}${door('standbys', standbysPort, `/replica?lag=${MOST_LAG_BYTES}`, nodes)}`;

const door = (
  name: string,
  port: number,
  path: string,
  nodes: readonly NodePorts[],
): string => `listen ${name}
    bind 127.0.0.1:${port}
    option httpchk OPTIONS ${path}
    http-check expect status 200
    default-server inter 1s fall 2 rise 1 on-marked-down shutdown-sessions
${nodes.map((n) => `    server ${n.name} 127.0.0.1:${n.database} check port ${n.rest}\n`).join('')}`;
