export { default as OvenStrip } from './now/OvenStrip.vue';
export { default as OwnDays } from './OwnDays.vue';
