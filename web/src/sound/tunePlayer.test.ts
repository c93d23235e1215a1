/** An arrangement is played without any desk, with a player that makes no sound. */
import { describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { FIRST_DECISIONS, arrange } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import { phrasesOf } from '@nokta/core/form';
import { USUAL_STYLE } from '@nokta/core/paper';
import type { PlayOptions } from './player.ts';
import type { Score } from '@nokta/core/practice';
import { FIRST_SOUND, type SoundSettings } from './settings.ts';
import { createTunePlayer } from './tunePlayer.ts';

const TUNE = 'X:1\nT:The Kettle Lamp\nM:4/4\nL:1/4\nQ:1/4=100\nK:D\nDEFG|A2F2|GFED|E2A,2|DEFG|A2F2|GFEC|D4|]';

function playTune() {
  const read = readAbc(TUNE);
  if (!read.ok) throw new Error('the test’s own tune');
  const arrangement = arrange(read.value.tune, FIRST_DECISIONS);
  const play = vi.fn((_hand: string, _score: Score, _options: PlayOptions) => Promise.resolve());
  const stop = vi.fn();
  const heard: (string | null)[] = [];
  const settings = ref<SoundSettings>(FIRST_SOUND);
  const percent = ref(50);
  const scope = effectScope();
  const player = scope.run(() =>
    createTunePlayer({
      arrangement: () => arrangement,
      settings,
      percent,
      names: () => USUAL_STYLE.names,
      onNote: (id) => heard.push(id),
      make: (tell) => ({
        playing: ref(false),
        loading: ref(false),
        play(...asked) {
          tell(asked[1].notes[0]?.id ?? null);
          return play(...asked);
        },
        stop,
        setTempo: vi.fn(),
        setMix: vi.fn(),
        prepare: vi.fn(() => Promise.resolve()),
        sound: vi.fn(() => Promise.resolve()),
      }),
    }),
  )!;
  return { arrangement, player, play, stop, heard, settings, scope };
}

describe('A player of an arrangement', () => {
  it('plays a phrase at a share of its tempo, tells its notes, and falls silent with whoever opened it', () => {
    const { arrangement, player, play, stop, heard, scope } = playTune();
    const phrase = phrasesOf(arrangement.form)[1]!;
    player.playPhrase(phrase, true);
    const [hand, score, options] = play.mock.lastCall!;
    expect(hand).toBe('violin');
    expect(new Set(score.notes.map(({ id }) => id))).toEqual(new Set(phrase.notes));
    expect(options).toEqual({ quarterBpm: arrangement.tempo / 2, loop: true, countIn: 'none' });
    expect(player.soundingPhrase.value).toBe(phrase.id);
    expect(heard).toEqual([phrase.notes[0]]);
    scope.stop();
    expect(stop).toHaveBeenCalledOnce();
  });

  it('plays a drill as much slower as the tune', () => {
    const { player, play } = playTune();
    player.playDrill({ score: { notes: [], chords: [], beats: [], length: 0 } as unknown as Score, tempo: 80 });
    expect(play.mock.lastCall![2].quarterBpm).toBe(40);
  });

  it('counts in where that is wished, from then on', async () => {
    const { arrangement, player, play, settings } = playTune();
    settings.value = { ...FIRST_SOUND, countIn: 'eighths' };
    await nextTick();
    player.play('tune', { part: null, phrase: phrasesOf(arrangement.form)[0]!, chosen: [], from: null });
    expect(play.mock.lastCall![2].countIn).toBe('eighths');
    expect(player.soundingPhrase.value).toBeNull();
  });
});
