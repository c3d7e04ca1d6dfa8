export { objectStorage, type PictureStorage, type StorageSettings } from './object-storage.ts';
export { bringPicturesBack, movePictures, startMovingPictures } from './moving.ts';
export { pictureBytes, wholePicture } from './whole-picture.ts';
