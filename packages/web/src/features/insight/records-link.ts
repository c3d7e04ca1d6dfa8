import type { RouteLocationRaw } from 'vue-router';

/** Makes the way from a number to the attempts it came from, the view's own filter included. */
export type RecordsLink = (more: Readonly<Record<string, string | number>>) => RouteLocationRaw;
