import '@fontsource-variable/atkinson-hyperlegible-next';
import 'primeicons/primeicons.css';
import './styles.css';
import 'virtual:component-styles.css';
import { createPinia } from 'pinia';
import PrimeVue from 'primevue/config';
import { createApp } from 'vue';
import { useAccess } from '../shared/access-store.js';
import App from './App.vue';
import { AT_REST } from './at-rest.js';
import { keepAttributesAtHand } from './attributes-at-hand.js';
import { keepAtHand } from './keep-at-hand.js';
import { router } from './router.js';
import { takeStylesFromSheet } from './styles-in-sheet.js';

takeStylesFromSheet();
keepAttributesAtHand();
createApp(App)
  .use(createPinia())
  .use(router)
  .use(PrimeVue, {
    pt: AT_REST,
    // Days are written year first: the week begins as ISO 8601 has it.
    locale: { firstDayOfWeek: 1 },
    theme: 'none',
  })
  .mount('#app');
// Over a network without TLS nothing is kept in the browser.
void useAccess()
  .ask()
  .then((access) => import.meta.env.PROD && !access?.plain && keepAtHand());
