import { mount, type VueWrapper } from '@vue/test-utils';
import PrimeVue from 'primevue/config';
import { nextTick, type Component } from 'vue';
import { createMemoryHistory, createRouter, type Router } from 'vue-router';
import { AT_REST } from '../../src/app/at-rest.js';
import { keepAttributesAtHand } from '../../src/app/attributes-at-hand.js';
import { takeStylesFromSheet } from '../../src/app/styles-in-sheet.js';
import { STEP_NAMES } from '../../src/model/step-names.js';
import { useUnits, type ChosenUnits } from '../../src/shared/units/units-store.js';
import { accountOf } from './on-page.js';

takeStylesFromSheet();
keepAttributesAtHand();

export const METRIC: ChosenUnits = { power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' };
export const IMPERIAL: ChosenUnits = { power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'psi' };

/** The addresses of the application, without its views. */
function addresses(): Router {
  return createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', component: { template: '<p />' } },
      ...STEP_NAMES.map((name) => ({ path: `/programmes/:id/${name}`, name, component: { template: '<p />' } })),
    ],
  });
}

/** Puts a part of a page on the page, as the application would; the pinia is that of the test. */
export function put(component: Component, props: Record<string, unknown> = {}, units = METRIC, router = addresses()): VueWrapper {
  useUnits().chosen = { ...units };
  return mount(component, {
    props,
    attachTo: document.body,
    global: {
      plugins: [accountOf, [PrimeVue, { pt: AT_REST, theme: 'none' }], router],
      stubs: { transition: false },
    },
  });
}

/** The same at an address. */
export async function putAt(address: string, component: Component, units = METRIC): Promise<VueWrapper> {
  const router = addresses();
  await router.push(address);
  return put(component, {}, units, router);
}

const named = (name: string) => (element: Element) =>
  element.getAttribute('aria-label') === name ||
  element.textContent.trim() === name ||
  (element.id !== '' && document.querySelector(`label[for="${element.id}"]`)?.textContent.trim() === name);

function only<T extends Element>(found: T[], what: string): T {
  if (found.length !== 1) throw new Error(`${found.length} of ${what}: ${document.body.innerHTML.slice(0, 2000)}`);
  return found[0]!;
}

export const field = (label: string) =>
  only([...document.querySelectorAll<HTMLInputElement>('input, textarea')].filter(named(label)), `field ${label}`);
export const button = (name: string) =>
  only([...document.querySelectorAll<HTMLButtonElement>('button')].filter(named(name)), `button ${name}`);

/** Types over what a field holds, and leaves it. */
export const type = (label: string, text: string) => typeOver(field(label), text);

export async function typeOver(input: HTMLInputElement, text: string): Promise<void> {
  input.dispatchEvent(new FocusEvent('focus'));
  input.value = text;
  input.dispatchEvent(new Event('input', { bubbles: true }));
  await nextTick();
  input.dispatchEvent(new FocusEvent('blur'));
  await nextTick();
}

export async function press(name: string): Promise<void> {
  button(name).click();
  await nextTick();
}

/** What is said beside a field that is not taken. */
export const alerts = () => [...document.querySelectorAll('[role=alert]')].map(({ textContent }) => textContent.trim());
