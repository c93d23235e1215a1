/** Strips in sight first, the others soon after, and never those of an older decision. */
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { shallowRef } from 'vue';
import { FIRST_DECISIONS, arrange, decided, type DecisionChange } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import { useShownStrips } from './shown.ts';
import { stripSource, stripViews, type StripSource } from './strips.ts';

const LINE = 'f2 fe dcBA | B2 AG FEDE | FGAB c2 de | f2 e2 d4 |\n';
const LONG = `X:1\nT:t\nM:4/4\nL:1/8\nK:D\n${LINE.repeat(18)}`;

function facts(change: DecisionChange, music = LONG) {
  const read = readAbc(music);
  if (!read.ok) throw new Error('unreadable');
  return arrange(read.value.tune, decided(FIRST_DECISIONS, change));
}
const plain = facts({});
const turned = facts({ bow: { start: 'up' } });

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('shows a tune as a whole, and then what is in sight first', () => {
  const source = shallowRef<StripSource | null>(null);
  const shown = useShownStrips(() => source.value);
  expect(shown.strips.value).toEqual([]);
  source.value = stripSource(plain);
  const first = shown.strips.value;
  expect(first).toEqual(stripViews(plain));
  expect(first.length).toBeGreaterThan(14);
  const seen = first[2]!.phrase.id;
  shown.inSight = () => new Set([seen]);
  source.value = stripSource(turned);
  expect(shown.strips.value[2]!.bows).not.toEqual(first[2]!.bows);
  expect(shown.strips.value[0]).toBe(first[0]);
  vi.runAllTimers();
  expect(shown.strips.value.map(({ key }) => key)).toEqual(stripViews(turned).map(({ key }) => key));
});

it('gives up what an older decision had still to show', () => {
  const source = shallowRef<StripSource | null>(stripSource(plain));
  const shown = useShownStrips(() => source.value);
  source.value = stripSource(turned);
  source.value = stripSource(plain);
  vi.runAllTimers();
  expect(shown.strips.value.map(({ key }) => key)).toEqual(stripViews(plain).map(({ key }) => key));
});

it('draws a few at a time, in a short tune too, and shows nothing where there is none', () => {
  const short = facts({}, LONG.split('\n').slice(0, 7).join('\n'));
  const source = shallowRef<StripSource | null>(stripSource(short));
  const shown = useShownStrips(() => source.value);
  const other = facts({ bow: { start: 'up' } }, LONG.split('\n').slice(0, 7).join('\n'));
  const all = stripViews(other).map(({ key }) => key);
  const drawn = () => shown.strips.value.filter(({ key }, at) => key === all[at]).length;
  shown.inSight = () => new Set([short.form.parts[0]!.phrases[0]!.id]);
  source.value = stripSource(other);
  expect(drawn()).toBe(1);
  vi.advanceTimersToNextTimer();
  expect(drawn()).toBeLessThanOrEqual(6);
  vi.runAllTimers();
  expect(shown.strips.value.map(({ key }) => key)).toEqual(all);
  source.value = null;
  expect(shown.strips.value).toEqual([]);
});
