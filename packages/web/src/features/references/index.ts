import { defineAsyncComponent } from 'vue';

/** Fetched when they are shown: the sheet has no use for the table, and seldom one for the dialog. */
export const ReferencesPanel = defineAsyncComponent(() => import('./ReferencesPanel.vue'));
export const RereadDialog = defineAsyncComponent(() => import('./RereadDialog.vue'));
