export { default as AttemptTraces } from './traces/AttemptTraces.vue';
export { default as OwnTraceSeries } from './traces/series/OwnTraceSeries.vue';
