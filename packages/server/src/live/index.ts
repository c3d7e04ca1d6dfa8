export { type Bell, startBell } from './bell.ts';
export { liveRoutes } from './live.routes.ts';
