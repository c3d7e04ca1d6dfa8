export { benchDeviceRoutes } from './bench-devices.routes.ts';
export { benchDevicesStore } from './bench-devices.store.ts';
export { hashOfPin } from './pins.ts';
