/** A note in equal parts. */
import { valueOf, type Note, type Pitch } from '../../music/index.ts';

/**
 * In threes of a plain beat they are a triplet.
 * @param sign tells the new notes from those of other dressings
 */
export function partsOf(note: Note, pitches: readonly Pitch[], part: number, sign: string): readonly Note[] {
  const plain = valueOf(part);
  const value = plain ?? valueOf((part * 3) / 2)!;
  const { chordSymbol, words, lineEnd, ...rest } = note;
  return pitches.map((pitch, index) => {
    const edge = index === 0 ? ('start' as const) : index === pitches.length - 1 ? ('stop' as const) : undefined;
    return {
      ...(index === 0 ? rest : { kind: 'note' as const }),
      id: index === 0 ? note.id : `${note.id}${sign}${index}`,
      at: note.at + index * part,
      duration: part,
      value,
      heads: [{ pitch }],
      ...(plain === null && { tuplet: { actual: 3, normal: 2, ...(edge && { edge }) } }),
      ...(index === 0 && chordSymbol !== undefined && { chordSymbol }),
      ...(index === 0 && words && { words }),
      ...(index === pitches.length - 1 && lineEnd && { lineEnd }),
    };
  });
}
