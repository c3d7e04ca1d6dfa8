export { default as TrySheet } from './TrySheet.vue';
