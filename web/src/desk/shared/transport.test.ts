/** What Play plays, with a player that makes no sound. */
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref, type EffectScope } from 'vue';
import type { Mix, Player, PlayOptions } from '../../sound/player.ts';
import type { Score } from '@nokta/core/practice';
import { useDesk } from '../rooms/store.ts';
import { fakeServer } from '../test/server.ts';
import { useTransport } from './transport.ts';
import { freshStores } from '../test/fresh.ts';

vi.mock('../../workers/index.ts', async () => (await import('../test/workers.ts')).fakeWorkers());

let scope: EffectScope;

async function openDesk() {
  const playing = ref(false);
  const play = vi.fn((_instrument: string, _score: Score, _options: PlayOptions) => {
    playing.value = true;
    return Promise.resolve();
  });
  const player = {
    playing,
    loading: ref(false),
    play,
    stop: vi.fn(() => void (playing.value = false)),
    setTempo: vi.fn(),
    setMix: vi.fn(),
    prepare: vi.fn(() => Promise.resolve()),
    sound: vi.fn(() => Promise.resolve()),
  } satisfies Player;
  let tell: (id: string | null) => void = () => {};
  fakeServer();
  const desk = useDesk();
  await desk.open('t1');
  const transport = scope.run(() =>
    useTransport((told) => {
      tell = told;
      return player;
    }),
  )!;
  /** Ids of the notes that were handed to the player last. */
  const played = () => play.mock.lastCall![1].notes.map(({ id }) => id);
  return { desk, player, transport, tell: (id: string | null) => tell(id), played };
}

freshStores();
beforeEach(() => {
  vi.spyOn(console, 'warn').mockImplementation(() => {});
  scope = effectScope();
});
afterEach(() => scope.stop());

describe('Play', () => {
  it('plays from the bar of the selected note on, and stops', async () => {
    const { desk, player, transport, played } = await openDesk();
    desk.choose('n9');
    transport.toggle(null);
    expect(played()).toEqual(['n9']);
    expect(player.play.mock.lastCall![2]).toMatchObject({ loop: false, countIn: 'none' });
    transport.toggle(null);
    expect(player.stop).toHaveBeenCalledOnce();
    transport.toggle('n5');
    expect(played()[0]).toBe('n1');
  });

  it('loops the phrase, not the tune', async () => {
    const { desk, player, transport, played } = await openDesk();
    transport.toggleLoop();
    transport.toggle(null);
    expect(new Set(played())).toEqual(new Set(desk.selectedPhrase!.notes));
    expect(player.play.mock.lastCall![2].loop).toBe(true);
    expect(transport.soundingPhrase.value).toBe(desk.selectedPhrase!.id);
  });

  it('plays what is chosen, and the tune again when nothing is', async () => {
    const { desk, transport, played } = await openDesk();
    desk.choose('n2');
    desk.choose('n4', true);
    await nextTick();
    expect(transport.scope.value).toBe('selection');
    transport.toggle(null);
    expect(played()).toEqual(['n2', 'n3', 'n4']);
    desk.choose('n1');
    await nextTick();
    expect(transport.scope.value).toBe('tune');
  });

  it('plays a phrase by its own button, and stops it by the same', async () => {
    const { desk, player, transport, tell } = await openDesk();
    const { id } = desk.phrases[0]!;
    transport.playPhrase(id);
    expect(transport.soundingPhrase.value).toBe(id);
    transport.playPhrase(id);
    expect(player.stop).toHaveBeenCalledOnce();
    transport.playPhrase(id);
    tell('n6');
    expect(desk.playingId).toBe('n6');
    tell(null);
    expect([desk.playingId, transport.soundingPhrase.value]).toEqual([null, null]);
  });
});

describe('what sounds, and how fast,', () => {
  it('belongs to the tune where it is the tune’s: tempo, drone and count-in', async () => {
    const { desk, transport } = await openDesk();
    transport.percent.value = 60;
    transport.settings.value = { ...transport.settings.value, drone: 'fifth', countIn: 'beats', metronome: true };
    desk.tune = { ...desk.tune!, id: 't2' };
    await nextTick();
    expect(transport.percent.value).toBe(100);
    expect(transport.settings.value).toMatchObject({ drone: 'none', countIn: 'none', metronome: true });
    desk.tune = { ...desk.tune, id: 't1' };
    await nextTick();
    expect(transport.percent.value).toBe(60);
    expect(transport.settings.value).toMatchObject({ drone: 'fifth', countIn: 'beats', metronome: true });
    transport.percent.value = 100;
    transport.settings.value = { ...transport.settings.value, drone: 'none', countIn: 'none', metronome: false };
  });
});

describe('while it plays', () => {
  it('follows the tempo, and what sounds beside the tune', async () => {
    const { desk, player, transport } = await openDesk();
    transport.toggle(null);
    const { quarterBpm } = player.play.mock.lastCall![2];
    transport.percent.value = 50;
    transport.settings.value = { ...transport.settings.value, drone: 'tonic' };
    await nextTick();
    expect(player.setTempo).toHaveBeenLastCalledWith(quarterBpm / 2);
    expect((player.setMix.mock.lastCall as unknown as [Mix])[0].drone).toHaveLength(1);
    expect(desk.arrangement!.form.key).not.toBeNull();
    transport.percent.value = 100;
    transport.settings.value = { ...transport.settings.value, drone: 'none' };
  });
});
