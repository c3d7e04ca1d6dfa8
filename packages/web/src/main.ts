import '@fontsource/atkinson-hyperlegible-next/latin-400.css';
import '@fontsource/atkinson-hyperlegible-next/latin-700.css';
import '@fontsource/atkinson-hyperlegible-next/latin-ext-400.css';
import '@fontsource/atkinson-hyperlegible-next/latin-ext-700.css';
import 'element-plus/theme-chalk/base.css';
import 'element-plus/theme-chalk/el-message.css';
import './theme/tokens.css';
import './theme/base.css';
import './theme/element-plus.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router.ts';
import { registerServiceWorker } from './shell/update.ts';

registerServiceWorker();
createApp(App).use(createPinia()).use(router).mount('#app');

if (import.meta.env.MODE === 'bench') void import('./bench/bare-component.ts').then((m) => m.mountBare());
