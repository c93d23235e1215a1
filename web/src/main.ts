/** Starts the application. */
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router.ts';
import { keepLettersFromSelects } from './theme/selects.ts';
import { vuetify } from './theme/vuetify.ts';
import './theme/base.css';

keepLettersFromSelects();
createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app');
