export { buildApp } from './app.ts';
