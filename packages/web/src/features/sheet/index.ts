export { entryWords, partWords } from './entry-words.ts';
export { default as TrySheet } from './TrySheet.vue';
