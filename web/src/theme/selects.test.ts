/** @vitest-environment happy-dom */
import { expect, it, vi } from 'vitest';
import { VSelect } from 'vuetify/components';
import { mounted, press } from '../test/mounted.ts';
import { keepLettersFromSelects } from './selects.ts';

it('keeps letters from a list that is closed, and nothing else', async () => {
  keepLettersFromSelects();
  const onChosen = vi.fn();
  const { root } = mounted(VSelect, {
    label: 'Key',
    items: ['A major', 'B minor'],
    modelValue: 'A major',
    'onUpdate:modelValue': onChosen,
  });
  const heard: string[] = [];
  const hear = ({ key }: KeyboardEvent) => void heard.push(key);
  document.addEventListener('keydown', hear);
  const field = root.querySelector('input')!;
  for (const key of ['b', '4', 'Escape']) await press(field, key);
  expect(onChosen).not.toHaveBeenCalled();
  expect(heard).toEqual(['Escape']);
  document.removeEventListener('keydown', hear);
});
