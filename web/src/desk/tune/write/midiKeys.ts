/** A MIDI keyboard, where the browser lets one be heard: what is pressed on it is written. */
import { onScopeDispose, ref } from 'vue';
import type { Midi } from '@nokta/core/music';

/** What of the browser's interface is needed. */
export interface MidiPort {
  readonly name?: string | null;
  onmidimessage: ((event: { readonly data: Uint8Array | null }) => void) | null;
}
export interface MidiAccess {
  readonly inputs: { values(): Iterable<MidiPort> };
  onstatechange: (() => void) | null;
}
export type AskForMidi = () => Promise<MidiAccess>;

/** The kind of a message stands in the upper half of its first byte. */
const NOTE_ON = 0x90;

/** @returns the key that a message says was pressed; null for all others, a key let go as one of no force among them */
export function pressedKey(data: Uint8Array | null): Midi | null {
  const [status = 0, number = 0, force = 0] = data ?? [];
  return (status & 0xf0) === NOTE_ON && force > 0 ? number : null;
}

const browserAsks = (): AskForMidi | null =>
  'requestMIDIAccess' in navigator
    ? () => navigator.requestMIDIAccess() as Promise<unknown> as Promise<MidiAccess>
    : null;

/**
 * @param strike is told each key that is pressed
 * @param ask for the keyboards; null where the browser has none to offer
 */
export function useMidiKeys(strike: (key: Midi) => void, ask: AskForMidi | null = browserAsks()) {
  /** What there is to say of it: which keyboards are heard, or why none is. */
  const heard = ref<string | null>(null);
  let access: MidiAccess | null = null;

  function listen(): void {
    const ports = [...(access?.inputs.values() ?? [])];
    for (const port of ports)
      port.onmidimessage = ({ data }) => {
        const key = pressedKey(data);
        if (key !== null) strike(key);
      };
    const names = ports.map(({ name }) => name ?? 'a keyboard').join(', ');
    heard.value = ports.length > 0 ? `Listening to ${names}.` : 'No MIDI keyboard is connected. Plug one in.';
  }

  async function start(): Promise<void> {
    if (!ask) return;
    try {
      access = await ask();
      access.onstatechange = listen;
      listen();
    } catch {
      heard.value = 'The browser does not let Nokta hear a MIDI keyboard. Allow it beside the address, and try again.';
    }
  }

  onScopeDispose(() => {
    if (!access) return;
    access.onstatechange = null;
    for (const port of access.inputs.values()) port.onmidimessage = null;
  });

  return { canHear: ask !== null, heard, start };
}
