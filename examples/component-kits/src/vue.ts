import Aura from '@primeuix/themes/aura';
import PrimeVue from 'primevue/config';
import { createApp } from 'vue';
import Mooring from './Mooring.vue';
import './page.css';

// The kit writes its styles into the page. The server allows them by a nonce, which it gives to the page.
const nonce = document.querySelector('meta[property="csp-nonce"]')?.getAttribute('content') ?? '';

createApp(Mooring)
  .use(PrimeVue, { theme: { preset: Aura, options: { darkModeSelector: false } }, csp: { nonce } })
  .mount('#app');
