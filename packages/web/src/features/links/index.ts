export { default as OwnTraceSeries } from './traces/series/OwnTraceSeries.vue';
