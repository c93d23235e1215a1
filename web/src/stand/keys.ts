/** Keys of the stand: those of a keyboard, and the two of a pedal that turns pages. */
import { useEventListener } from '@vueuse/core';

export interface StandCommands {
  play(): void;
  next(): void;
  before(): void;
  clean(): void;
  notClean(): void;
  loop(): void;
  leave(): void;
}

/** Pedals send arrows or page keys: forward goes on, back plays. */
const KEYS: Readonly<Record<string, keyof StandCommands>> = {
  ' ': 'play',
  PageUp: 'play',
  PageDown: 'next',
  ArrowRight: 'next',
  ArrowLeft: 'before',
  ArrowUp: 'clean',
  ArrowDown: 'notClean',
  l: 'loop',
  Escape: 'leave',
};

export function useStandKeys(commands: StandCommands): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
    const command = KEYS[event.key];
    if (!command) return;
    const on = event.target instanceof Element ? event.target : null;
    // A button that has the focus is pressed by Space; a list of choices moves by arrows.
    if (event.key === ' ' && on?.closest('button, a, summary')) return;
    if (on?.closest('input, textarea, select, [role="listbox"]')) return;
    // What is open over the stand has its own keys.
    if (document.querySelector('.v-overlay--active')) return;
    event.preventDefault();
    commands[command]();
  });
}
