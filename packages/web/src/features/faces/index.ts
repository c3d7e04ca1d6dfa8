export { default as AttemptFaces } from './AttemptFaces.vue';
export { default as OwnCalls } from './OwnCalls.vue';
