import { effectScope } from 'vue';
import { expect, it, vi } from 'vitest';
import { pressedKey, useMidiKeys, type MidiAccess, type MidiPort } from './midiKeys.ts';

const port = (name: string): MidiPort => ({ name, onmidimessage: null });
const accessTo = (...ports: MidiPort[]): MidiAccess => ({ inputs: new Set(ports), onstatechange: null });
const press = (to: MidiPort, ...data: number[]) => to.onmidimessage?.({ data: Uint8Array.from(data) });

it('reads a pressed key out of a message on any channel, and nothing else', () => {
  expect(pressedKey(Uint8Array.of(0x90, 69, 80))).toBe(69);
  expect(pressedKey(Uint8Array.of(0x93, 62, 1))).toBe(62);
  expect(pressedKey(Uint8Array.of(0x90, 69, 0))).toBeNull();
  expect(pressedKey(Uint8Array.of(0x80, 69, 64))).toBeNull();
  expect(pressedKey(Uint8Array.of(0xfe))).toBeNull();
  expect(pressedKey(null)).toBeNull();
});

it('hears every keyboard, those that are plugged in later too, until the page is left', async () => {
  const [first, second] = [port('Small keys'), port('Large keys')];
  const strike = vi.fn();
  const access = accessTo(first);
  const scope = effectScope();
  const keys = scope.run(() => useMidiKeys(strike, () => Promise.resolve(access)))!;
  await keys.start();
  expect(keys.heard.value).toBe('Listening to Small keys.');
  press(first, 0x90, 60, 64);
  (access.inputs as Set<MidiPort>).add(second);
  access.onstatechange!();
  expect(keys.heard.value).toBe('Listening to Small keys, Large keys.');
  press(second, 0x90, 64, 64);
  expect(strike.mock.calls).toEqual([[60], [64]]);
  scope.stop();
  press(first, 0x90, 67, 64);
  expect(strike).toHaveBeenCalledTimes(2);
});

it('says so where none is connected, where it is not allowed, and offers nothing where the browser has nothing', async () => {
  const scope = effectScope();
  const none = scope.run(() => useMidiKeys(vi.fn(), () => Promise.resolve(accessTo())))!;
  await none.start();
  expect(none.heard.value).toContain('No MIDI keyboard is connected');
  const refused = scope.run(() => useMidiKeys(vi.fn(), () => Promise.reject(new Error('denied'))))!;
  await refused.start();
  expect(refused.heard.value).toContain('Allow it');
  expect(scope.run(() => useMidiKeys(vi.fn(), null))!.canHear).toBe(false);
  scope.stop();
});
