export * from './bench.ts';
export * from './commands.ts';
export * from './control.ts';
export * from './failures.ts';
export * from './instruments.ts';
export * from './scpi-server.ts';
export * from './stand-ins.ts';
