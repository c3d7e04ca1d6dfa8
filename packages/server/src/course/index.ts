export { courseRoutes } from './course.routes.ts';
export { courseStore, workIn } from './course.store.ts';
