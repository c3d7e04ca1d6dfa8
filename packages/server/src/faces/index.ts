export { engineSays, mediaTypeOf } from './faces.service.ts';
export { faceRoutes, sendPicture } from './faces.routes.ts';
export { facesStore } from './faces.store.ts';
