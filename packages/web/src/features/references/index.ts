export { default as RereadDialog } from './RereadDialog.vue';
