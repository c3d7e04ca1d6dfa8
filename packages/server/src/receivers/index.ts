export { deliverDue, startDeliveries } from './deliver.ts';
export { receiverRoutes } from './receivers.routes.ts';
