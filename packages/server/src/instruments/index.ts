export { acquireSor, type OtdrOrder } from './acquire-sor.ts';
export { type InstrumentHub, instrumentHub } from './hub.ts';
export { instrumentRoutes } from './instruments.routes.ts';
export { instrumentsStore } from './instruments.store.ts';
