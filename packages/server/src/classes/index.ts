export { classForInstructor } from './access.ts';
export { classRoutes } from './classes.routes.ts';
export { classesStore } from './classes.store.ts';
