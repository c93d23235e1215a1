/** @vitest-environment happy-dom */
import { describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { FIRST_DECISIONS, arrange } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import { phrasesOf } from '@nokta/core/form';
import { mounted } from '../../test/mounted.ts';
import BeadRail from './BeadRail.vue';

const PHRASES = ['D2FA d2fd', 'e2dc BAGF', 'D2FA d2fd', 'e2c2 d4'];
const read = readAbc(`X:1\nT:Slate\nM:4/4\nL:1/8\nK:D\n${PHRASES.join(' | ')} | ${PHRASES.join(' | ')} |]\n`);
if (!read.ok) throw new Error('the test’s own tune');
const facts = arrange(read.value.tune, FIRST_DECISIONS);
const PROPS = { facts, selectedId: null, playingId: null, hinted: new Set<string>(), movable: false };

const focused = () => document.activeElement?.getAttribute('aria-label');

describe('The form rail', () => {
  it('is one stop for Tab, at the bar that is here', async () => {
    const wrapper = mounted(BeadRail, { ...PROPS, selectedId: facts.tune.bars[2]!.events[0]!.id });
    const stops = wrapper.findAll('button').filter((one) => one.attributes('tabindex') === '0');
    expect(stops.map((one) => one.attributes('aria-label'))).toEqual([expect.stringMatching(/^Bar 3.*here$/)]);
    await wrapper.setProps({ playingId: facts.tune.bars[4]!.events[0]!.id });
    expect(wrapper.find('[tabindex="0"]').attributes('title')).toBe('Bar 5');
  });

  it('is walked by arrows, along the thread and from row to row, and chooses by Enter', async () => {
    const onSelect = vi.fn();
    const wrapper = mounted(BeadRail, { ...PROPS, onSelect });
    const rows = phrasesOf(facts.form).length;
    const press = async (key: string) => {
      await wrapper.find('[tabindex="0"]').trigger('keydown', { key });
      await nextTick();
    };
    await press('ArrowRight');
    expect(focused()).toMatch(/^Bar 2/);
    await press('ArrowLeft');
    await press('ArrowLeft');
    expect(focused()).toMatch(/^Bar 1/);
    await press('End');
    expect(focused()).toMatch(/^Bar 8/);
    await press('Home');
    if (rows > 1) {
      await press('ArrowDown');
      const second = phrasesOf(facts.form)[1]!.label;
      expect(document.activeElement!.closest('li')!.querySelector('.name')!.textContent).toBe(second);
    }
    await wrapper.find('[tabindex="0"]').trigger('click');
    expect(onSelect).toHaveBeenCalledOnce();
  });

  it('keeps keys of its own from the desk', async () => {
    const heard = vi.fn();
    document.addEventListener('keydown', heard);
    const wrapper = mounted(BeadRail, PROPS);
    await wrapper.find('[tabindex="0"]').trigger('keydown', { key: 'ArrowRight' });
    expect(heard).not.toHaveBeenCalled();
    await wrapper.find('[tabindex="0"]').trigger('keydown', { key: 'v' });
    expect(heard).toHaveBeenCalledOnce();
    document.removeEventListener('keydown', heard);
  });
});
