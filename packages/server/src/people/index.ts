export { accountRoutes } from './accounts.routes.ts';
export { placeholderLogin } from './accounts.service.ts';
export { peopleRoutes } from './people.routes.ts';
export { LEAST_PASSWORD } from './passwords.ts';
export { type Caller, peopleService } from './people.service.ts';
export { peopleStore } from './people.store.ts';
export { setupService } from './setup.service.ts';
export { sessionSecret } from './secret.store.ts';
export { sessionName, sessionStore } from './session-store.ts';
