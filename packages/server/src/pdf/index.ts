export { FONT_FILES, fontFile } from './font-files.ts';
export { bytesOf } from './pdf-maker.ts';
