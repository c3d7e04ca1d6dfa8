export { default as EndDialog } from './EndDialog.vue';
export { default as MeasureDialog } from './MeasureDialog.vue';
export { default as MeasuredPictures } from './MeasuredPictures.vue';
export { default as SpliceDialog } from './SpliceDialog.vue';
