export { engineSays, mediaTypeOf } from './faces.service.ts';
export { faceRoutes, sendPicture } from './faces.routes.ts';
export { facesStore, type PictureRow, type StoredPicture } from './faces.store.ts';
