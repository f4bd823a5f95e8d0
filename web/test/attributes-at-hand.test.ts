import BaseComponent from '@primevue/core/basecomponent';
import { flushPromises, mount } from '@vue/test-utils';
import PrimeVue from 'primevue/config';
import { afterEach, describe, expect, it } from 'vitest';
import { AT_REST } from '../src/app/at-rest.js';
import { keepAttributesAtHand } from '../src/app/attributes-at-hand.js';
import { DRAWN } from './support/package-components.js';

/** What stands on the page at first and then, without the numbers that tell one component from another. */
async function shown([, component, first, then]: (typeof DRAWN)[number]): Promise<string[]> {
  const wrapper = mount(component, { props: first, attachTo: document.body, global: { plugins: [[PrimeVue, { pt: AT_REST }]] } });
  const texts: string[] = [];
  for (const props of [{}, then]) {
    await wrapper.setProps(props);
    await flushPromises();
    texts.push(document.body.innerHTML.replaceAll(/pc\d+|pv_id_\d+/g, 'own'));
  }
  wrapper.unmount();
  document.body.replaceChildren();
  return texts;
}

// Files share their modules: those that come after have them at hand again.
afterEach(() => void keepAttributesAtHand());

describe('a component of the package that has its attributes at hand', () => {
  it.each(DRAWN)('draws %s as it would without', async (...drawn) => {
    const haveItAsItWas = keepAttributesAtHand();
    const atHand = BaseComponent.methods.ptm;
    const [first, then] = await shown(drawn);
    haveItAsItWas();
    expect(BaseComponent.methods.ptm).not.toBe(atHand);
    expect(first).toContain('data-pc-section="');
    expect(then).not.toBe(first);
    expect([first, then]).toEqual(await shown(drawn));
  });
});
