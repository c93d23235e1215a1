/** Members of a group as decisions, and back: rules of choice, free of the interface. */
import { dequal } from 'dequal';
import { decided, FIRST_DECISIONS, type Decisions } from '@nokta/core/arrange';
import type { Player } from '@nokta/core/files';
import { isGraded } from '@nokta/core/grade';
import { INSTRUMENT, type InstrumentId, type InstrumentMake } from '@nokta/core/instrument';

/** Somebody new, who plays the tune as it is. */
export const playerOf = (instrument: InstrumentId): Player => ({
  name: '',
  instrument,
  make: null,
  grade: null,
  hand: null,
});

/** Those for whom a tune is set already, each once. */
export function playersIn(all: readonly Decisions[]): readonly Player[] {
  const players = all.map(({ key: { instrument, make }, version, hand: { learner, wishes } }): Player => ({
    name: version.name ?? '',
    instrument,
    make,
    grade: isGraded(version.grade) ? version.grade : null,
    hand: learner && { ...learner, wishes },
  }));
  const seen = new Set<string>();
  return players.filter((player) => {
    const text = JSON.stringify(player);
    return !seen.has(text) && Boolean(seen.add(text));
  });
}

/**
 * What is decided of the tune, for one of the group: on their instrument, as it is usually tuned, with their hand, at
 * the teacher's tempo. The same whichever arrangement is on the desk.
 */
export function decisionsFor({ pace }: Pick<Decisions, 'pace'>, { instrument, make, hand }: Player): Decisions {
  return decided(FIRST_DECISIONS, {
    pace,
    key: { instrument, make },
    hand: {
      ...FIRST_DECISIONS.hand,
      ...(hand && { wishes: hand.wishes, learner: hand }),
    },
  });
}

/** Whether an arrangement is for the same player, instrument, version and key. */
export const isSetSo = (own: Decisions, wanted: Pick<Decisions, 'key' | 'version'>): boolean =>
  dequal(setting(own), setting(wanted));
const setting = ({ key, version }: Pick<Decisions, 'key' | 'version'>) => [
  key.instrument,
  key.make,
  key.tuning,
  key.transpose,
  version.grade,
  version.name,
];

/** What an instrument is called in a list. */
export const instrumentWord = ({
  like,
  make,
}: {
  readonly like: InstrumentId;
  readonly make: InstrumentMake | null;
}): string => make?.name ?? INSTRUMENT[like].name;
