export { peopleRoutes } from './people.routes.ts';
export { LEAST_PASSWORD } from './passwords.ts';
export { peopleService } from './people.service.ts';
export { peopleStore } from './people.store.ts';
export { sessionSecret } from './secret.store.ts';
export { sessionName, sessionStore } from './session-store.ts';
