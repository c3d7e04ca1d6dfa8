export { archiveRoutes } from './archives.routes.ts';
export { refersOf } from './archive-rows.ts';
export { openArchive } from './archive-zip.ts';
export { makeArchive } from './make-archive.ts';
export { lookAtArchive, takeArchive } from './take-archive.ts';
