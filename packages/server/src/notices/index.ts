export { type NoticeCause, noticesStore } from './notices.store.ts';
