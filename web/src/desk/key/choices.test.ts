/** Rules of choice of the Key pass, without a browser. */
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { decided, FIRST_DECISIONS } from '@nokta/core/arrange';
import type { Kept } from '@nokta/core/files';
import { MAKES } from '@nokta/core/instrument';
import { UnreachableError, api } from '../../api/client.ts';
import { useKept } from '../../kept/store.ts';
import { forOtherNotes, setFor } from '../rooms/arranging.ts';
import { tune } from '../test/server.ts';
import { decisionsFor, instrumentWord, isSetSo, playerOf, playersIn } from './group.ts';
import { withMove } from './phrases.ts';

const [, half] = MAKES.violin;
const five = MAKES.violin.find(({ strings }) => strings)!;

describe('members of a group', () => {
  it('are at first those for whom the tune is set, each once', () => {
    const cello = decided(FIRST_DECISIONS, { key: { instrument: 'cello' }, version: { grade: 2, name: 'Cellos' } });
    const players = playersIn([FIRST_DECISIONS, cello, cello]);
    expect(players.map(({ name, instrument, grade }) => [name, instrument, grade])).toEqual([
      ['', 'violin', null],
      ['Cellos', 'cello', 2],
    ]);
  });

  it('play on their own instrument, as it is usually tuned, with their own hand and no echoes', () => {
    const now = decided(FIRST_DECISIONS, {
      key: { tuning: 'low-pair-up', phrases: { n1: { last: 'n4', octaves: 0, echo: -1 } } },
      hand: { limits: { noFourth: true } },
    });
    const hand = { name: 'Ida', wishes: { preset: 'small-hands' as const }, limits: { maxPosition: 'I' as const } };
    const own = decisionsFor(now, { ...playerOf('violin'), make: half!, hand });
    expect(own.key).toMatchObject({ make: half, tuning: 'standard', transpose: 0, phrases: {} });
    expect(own.pace).toEqual(now.pace);
    expect(own.hand).toMatchObject({ learner: { name: 'Ida', limits: { maxPosition: 'I' } }, limits: {} });
    expect(decisionsFor(now, playerOf('viola')).hand).toEqual(FIRST_DECISIONS.hand);
  });

  it('are given none of what was decided note by note for another', () => {
    const now = decided(FIRST_DECISIONS, {
      version: { slots: { n1: { 2: 'octave-up' } }, locked: ['n1'] },
      signs: { strokeSigns: { n1: ['accent'] } },
      bow: { school: 'down-on-the-beat' },
    });
    const fresh = forOtherNotes(now);
    expect([fresh.version, fresh.signs]).toEqual([FIRST_DECISIONS.version, FIRST_DECISIONS.signs]);
    expect(fresh.bow).toEqual({ ...FIRST_DECISIONS.bow, school: 'down-on-the-beat' });
  });

  it('have an arrangement already, or need one in another key', () => {
    const own = decided(FIRST_DECISIONS, { key: { transpose: 2 } });
    expect(isSetSo(own, structuredClone(own))).toBe(true);
    expect(isSetSo(own, FIRST_DECISIONS)).toBe(false);
  });

  it('are named by what they play', () => {
    expect([instrumentWord({ like: 'bass', make: null }), instrumentWord({ like: 'violin', make: half! })]).toEqual([
      'Bass',
      'Half-size violin',
    ]);
  });
});

describe('a phrase', () => {
  const place = { first: 'n1', last: 'n8' };
  it('that is moved and moved back needs no decision', () => {
    const up = withMove({}, place, { octaves: 1 });
    expect(up).toEqual({ n1: { last: 'n8', octaves: 1, echo: 0 } });
    expect(withMove(up, place, { octaves: 0 })).toEqual({});
  });
  it('keeps its echo when it is moved, and goes no further than three octaves', () => {
    const echo = withMove({}, place, { echo: -1 });
    expect(withMove(echo, place, { octaves: 9 })).toEqual({ n1: { last: 'n8', octaves: 3, echo: -1 } });
  });
});

describe('another instrument', () => {
  const record = { tune } as unknown as Parameters<typeof setFor>[1];
  const now = decided(FIRST_DECISIONS, { key: { tuning: 'low-pair-up', transpose: 12 } });
  it('of another size keeps tuning and octave', () => {
    expect(setFor('violin', record, now, half!).key).toEqual({ ...now.key, make: half });
  });
  it('of other strings begins in its usual tuning', () => {
    expect(setFor('violin', record, now, five).key).toMatchObject({ make: five, tuning: 'standard' });
    expect(setFor('cello', record, now).key).toMatchObject({ instrument: 'cello', make: null, tuning: 'standard' });
  });
});

describe('what is kept', () => {
  const value = { instrument: 'violin' as const, pitches: ['F3', 'C4', 'G4', 'D5'] };
  const one: Kept<'tuning'> = { id: '0d6c1f7e-5f1a-4f38-9d3c-5a8f4f0c9b11', kind: 'tuning', name: 'Quay', value };
  beforeEach(() => {
    setActivePinia(createPinia());
    vi.restoreAllMocks();
  });

  it('is kept anew under a name that is known, and by kind', async () => {
    vi.spyOn(api, 'kept').mockResolvedValue([one]);
    const put = vi.spyOn(api, 'keep').mockResolvedValue(one);
    const add = vi.spyOn(api, 'addKept').mockResolvedValue(one);
    const kept = useKept();
    await kept.load();
    expect(kept.of('tuning')).toEqual([one]);
    expect(kept.of('group')).toEqual([]);
    expect(await kept.keep('tuning', ' Quay ', value)).toBe(true);
    expect(put).toHaveBeenCalledWith(expect.objectContaining({ id: one.id }));
    await kept.keep('tuning', 'Mole', value);
    expect(add).toHaveBeenCalledWith({ kind: 'tuning', name: 'Mole', value });
  });

  it('says what went wrong, and loses nothing that is shown', async () => {
    vi.spyOn(api, 'kept').mockResolvedValue([one]);
    const kept = useKept();
    await kept.load();
    vi.spyOn(api, 'dropKept').mockRejectedValue(new UnreachableError());
    expect(await kept.drop(one.id)).toBe(false);
    expect(kept.problem).toContain('does not answer');
    expect(kept.of('tuning')).toEqual([one]);
  });
});
