/** Help for tests: a component in a page of its own, with the design's parts as in the application. */
import { afterEach } from 'vitest';
import { mount, type VueWrapper } from '@vue/test-utils';
import type { Component } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';

const open: VueWrapper[] = [];
afterEach(() => {
  for (const wrapper of open.splice(0)) wrapper.unmount();
  document.body.innerHTML = '';
});

/** @param props and listeners, which begin with `on` */
export function mounted(component: Component, props: Readonly<Record<string, unknown>> = {}): VueWrapper {
  const wrapper = mount(component as never, {
    props: props as never,
    attachTo: document.body,
    global: { plugins: [createVuetify({ components })] },
  });
  open.push(wrapper);
  return wrapper;
}

/** What can be pressed, by what it is called to those who do not see it, or by its text. */
export function button(wrapper: VueWrapper, name: string) {
  const found = wrapper
    .findAll('button, [role="button"]')
    .find((one) => [one.attributes('aria-label'), one.text()].includes(name));
  if (!found) throw new Error(`Nothing is called ${name}.`);
  return found;
}
