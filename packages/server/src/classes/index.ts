export { classForInstructor, classForMember } from './access.ts';
export { classRoutes } from './classes.routes.ts';
export { classesStore } from './classes.store.ts';
export { linksStore } from './links.store.ts';
