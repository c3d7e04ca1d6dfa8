export * from './parse-reading.ts';
export * from './place-paste.ts';
