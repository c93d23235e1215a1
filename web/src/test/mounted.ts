/** Help for tests: a component in a page of its own, with the design's parts as in the application. */
import { afterEach } from 'vitest';
import { createApp, h, nextTick, shallowReactive, type App, type Component } from 'vue';
import { createVuetify } from 'vuetify';
import * as components from 'vuetify/components';

const open: App[] = [];
afterEach(() => {
  for (const app of open.splice(0)) app.unmount();
  document.body.innerHTML = '';
});

type Props = Readonly<Record<string, unknown>>;

export interface Mounted {
  readonly root: HTMLElement;
  /** Gives it other properties, and waits until they show. */
  set(props: Props): Promise<void>;
}

/** @param props and listeners, which begin with `on` */
export function mounted(component: Component, props: Props = {}): Mounted {
  const root = document.body.appendChild(document.createElement('div'));
  const given = shallowReactive<Record<string, unknown>>({ ...props });
  const app = createApp({ render: () => h(component, { ...given }) });
  app.use(createVuetify({ components })).mount(root);
  open.push(app);
  return {
    root,
    set(next) {
      Object.assign(given, next);
      return nextTick();
    },
  };
}

/** A key pressed where the focus would be, and what comes of it. */
export async function press(element: Element, key: string): Promise<void> {
  element.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  await nextTick();
  await nextTick();
}
