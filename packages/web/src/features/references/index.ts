export { default as ReferencesPanel } from './ReferencesPanel.vue';
export { default as RereadDialog } from './RereadDialog.vue';
