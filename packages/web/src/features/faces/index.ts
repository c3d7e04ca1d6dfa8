export { default as AttemptFaces } from './inspect/AttemptFaces.vue';
export { default as OwnCalls } from './calls/OwnCalls.vue';
