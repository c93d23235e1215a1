/** What is said of a phrase is true: what it calls alike is alike, note by note, and what it calls other is other. */
import { describe, expect, it } from 'vitest';
import { analyseForm, phrasesOf, relationInTune, type Phrase } from '../form/index.ts';
import { barLength, barNumbers, barStarts, beatLength, midi, soundingNotes, type Tune } from '../music/index.ts';
import { FORM_KINDS } from '../test/formKinds.ts';
import { tuneOf } from '../test/testing.ts';
import { relationText } from './index.ts';

/** Where in its phrase a sound is: in bars from the downbeat, the first being 1; below 1 is the pickup. */
interface Place {
  readonly bar: number;
  readonly beat: number;
  readonly sound: string;
}

function placesIn(tune: Tune, phrase: Phrase): readonly Place[] {
  const starts = barStarts(tune.bars);
  const own = new Set(phrase.notes);
  const numbers = barNumbers(tune.bars);
  const first = numbers[starts.slice(0, -1).findLastIndex((start) => start <= phrase.downbeat)]!;
  return soundingNotes(tune)
    .filter(({ note }) => own.has(note.id))
    .map(({ note, onset, duration, barIndex }, index, all) => {
      const { metre, offset } = tune.bars[barIndex]!;
      const at = onset - phrase.downbeat;
      const length = barLength(metre);
      return {
        bar: at < 0 ? 0 : numbers[barIndex]! - first + 1,
        beat: 1 + Math.floor((((onset - starts[barIndex]! + offset) % length) + 1e-6) / beatLength(metre)),
        // How long a phrase's last note is held depends on what follows.
        sound: `${at} ${index === all.length - 1 ? '' : duration} ${note.heads.map(({ pitch }) => midi(pitch)).join('+')}`,
      };
    });
}

/** Bars within the phrase of which a sentence speaks. */
const numbersIn = (text: string): readonly number[] =>
  [...text.replace('A1', '').matchAll(/(\d+)(?:–(\d+))?/g)].flatMap(([, from, to]) =>
    Array.from({ length: Number(to ?? from) - Number(from) + 1 }, (_, index) => Number(from) + index),
  );

/** Bars in which not all is alike; 0 is the pickup. */
function otherBars(own: readonly Place[], other: readonly Place[]): ReadonlySet<number> {
  const bars = new Set<number>();
  const told = (places: readonly Place[]) => new Set(places.map(({ sound }) => sound));
  const [mine, theirs] = [told(own), told(other)];
  for (const { bar, sound } of own) if (!theirs.has(sound)) bars.add(Math.max(0, bar));
  for (const { bar, sound } of other) if (!mine.has(sound)) bars.add(Math.max(0, bar));
  return bars;
}

const TUNES: readonly (readonly [string, Tune])[] = [
  ...FORM_KINDS.map(({ name, tune }) => [name, tune] as const),
  // Six bars of nine eighths that part only on the last beat.
  [
    'an ending from the last beat on',
    tuneOf('A2|:d2f2 a2f2|e2g2 e2c2|d2f2 a2g2|f2e2 d2A2|d2f2 a2f2|e2g2 e2c2|d2f2 a2f2|e2c2 d4:|', { key: 'D' }),
  ],
];

describe('what is said of a phrase and an earlier one', () => {
  const claims = TUNES.flatMap(([name, tune]) => {
    const phrases = phrasesOf(analyseForm(tune));
    return phrases.flatMap((phrase) => {
      const like = phrases.find(({ id }) => id === phrase.relation.of);
      if (!like) return [];
      const text = relationText(phrase.relation, 'A1');
      return [[`${name}, ${phrase.label}: ${text}`, tune, phrase, like, text] as const];
    });
  });
  it('there is enough to say', () => expect(claims.length).toBeGreaterThan(60));

  it.each(claims)('%s', (_, tune, phrase, like, text) => {
    const there = placesIn(tune, like);
    const longest = Math.max(...there.map(({ bar }) => bar));
    // Of a second ending, which the other phrase does not have, nothing is said.
    const others = otherBars(
      placesIn(tune, phrase).filter(({ bar }) => bar <= longest),
      there,
    );
    const from = /other from (the last beat of )?bar (\d+) on/.exec(text);
    const but = / but for (bars? [\d–, and]+\d)( and the pickup)?$/.exec(text);
    if (from) {
      const bar = Number(from[2]);
      const music = [...others].filter((one) => one > 0);
      expect(Math.min(...music)).toBe(bar);
      expect(others.has(0) && !text.includes('starts')).toBe(text.includes('in the pickup'));
    } else if (/^(same as|like)/.test(text) && but && !text.includes('moved') && !/higher|lower/.test(text)) {
      expect([...others].filter((one) => one > 0).sort((a, b) => a - b)).toEqual(numbersIn(but[1]!));
      expect(others.has(0)).toBe(but[2] !== undefined);
    } else if (/^same as A1( but for the pickup)?$/.test(text)) {
      expect([...others].filter((one) => one > 0)).toEqual([]);
      expect(others.has(0)).toBe(text.includes('pickup'));
    }
  });

  it('counts bars as the tune does, on paper and in talk', () => {
    const tune = tuneOf('d2f2 a2f2|e2g2 e2c2|d2f2 a2g2|f2e2 d2A2|d2f2 a2f2|e2g2 e2c2|b2a2 g2f2|e2c2 d4|]', {
      key: 'D',
    });
    const phrase = phrasesOf(analyseForm(tune)).at(-1)!;
    const own = relationText(phrase.relation, 'A1');
    const told = relationText(relationInTune(tune, phrase), 'A1');
    const first = barNumbers(tune.bars)[barStarts(tune.bars).indexOf(phrase.downbeat)]!;
    expect(numbersIn(told)).toEqual(numbersIn(own).map((bar) => bar + first - 1));
    expect(told).toBe('like A1 but for bars 7–8');
  });
});
