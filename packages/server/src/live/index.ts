export { type ChangeNotifier, startNotifier } from './notifier.ts';
export { type ClassFeed, classFeed } from './class-feed.ts';
export { liveRoutes } from './live.routes.ts';
export { eventStream } from './event-stream.ts';
