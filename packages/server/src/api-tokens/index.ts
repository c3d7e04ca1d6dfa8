export { apiTokenRoutes } from './api-tokens.routes.ts';
export { apiTokensStore } from './api-tokens.store.ts';
export { rightOf, tokenCallers } from './token-callers.ts';
