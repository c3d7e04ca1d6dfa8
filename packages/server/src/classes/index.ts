export { classForInstructor, classForMember } from './access.ts';
export { classRoutes } from './classes.routes.ts';
export { classesService } from './classes.service.ts';
export { classesStore } from './classes.store.ts';
export { cordChecksStore } from './cord-checks.store.ts';
export { linksStore } from './links.store.ts';
export { THING_COLUMNS, thingOf, type ThingRow } from './thing-columns.ts';
