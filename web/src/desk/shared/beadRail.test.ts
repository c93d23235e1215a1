/** @vitest-environment happy-dom */
import { describe, expect, it, vi } from 'vitest';
import { FIRST_DECISIONS, arrange } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import { phrasesOf } from '@nokta/core/form';
import { mounted, press } from '../../test/mounted.ts';
import BeadRail from './BeadRail.vue';

const PHRASES = ['D2FA d2fd', 'e2dc BAGF', 'D2FA d2fd', 'e2c2 d4'];
const read = readAbc(`X:1\nT:Slate\nM:4/4\nL:1/8\nK:D\n${PHRASES.join(' | ')} | ${PHRASES.join(' | ')} |]\n`);
if (!read.ok) throw new Error('the test’s own tune');
const facts = arrange(read.value.tune, FIRST_DECISIONS);
const PROPS = { facts, selectedId: null, playingId: null, hinted: new Set<string>(), movable: false };

const focused = () => document.activeElement?.getAttribute('aria-label');

const stopOf = (root: Element) => root.querySelector<HTMLElement>('[tabindex="0"]')!;

describe('The form rail', () => {
  it('is one stop for Tab, at the bar that is here', async () => {
    const { root, set } = mounted(BeadRail, { ...PROPS, selectedId: facts.tune.bars[2]!.events[0]!.id });
    const stops = [...root.querySelectorAll('button[tabindex="0"]')];
    expect(stops.map((stop) => stop.getAttribute('aria-label'))).toEqual([expect.stringMatching(/^Bar 3.*here$/)]);
    await set({ playingId: facts.tune.bars[4]!.events[0]!.id });
    expect(stopOf(root).title).toBe('Bar 5');
  });

  it('is walked by arrows, along the thread and from row to row, and chooses by Enter', async () => {
    const onSelect = vi.fn();
    const { root } = mounted(BeadRail, { ...PROPS, onSelect });
    const walk = (key: string) => press(stopOf(root), key);
    await walk('ArrowRight');
    expect(focused()).toMatch(/^Bar 2/);
    await walk('ArrowLeft');
    await walk('ArrowLeft');
    expect(focused()).toMatch(/^Bar 1/);
    await walk('End');
    expect(focused()).toMatch(/^Bar 8/);
    await walk('Home');
    const [, second] = phrasesOf(facts.form);
    await walk('ArrowDown');
    expect(document.activeElement!.closest('li')!.querySelector('.name')!.textContent).toBe(second!.label);
    stopOf(root).click();
    expect(onSelect).toHaveBeenCalledOnce();
  });

  it('keeps keys of its own from the desk', async () => {
    const heard = vi.fn();
    document.addEventListener('keydown', heard);
    const { root } = mounted(BeadRail, PROPS);
    await press(stopOf(root), 'ArrowRight');
    expect(heard).not.toHaveBeenCalled();
    await press(stopOf(root), 'v');
    expect(heard).toHaveBeenCalledOnce();
    document.removeEventListener('keydown', heard);
  });
});
