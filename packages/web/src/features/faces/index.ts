export { default as OwnCalls } from './OwnCalls.vue';
