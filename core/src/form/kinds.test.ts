/** Short tunes of kinds that are easily parted wrongly, each by itself. */
import { describe, expect, it } from 'vitest';
import { placedNotes, type Ticks } from '../music/index.ts';
import { FORM_KINDS } from '../test/formKinds.ts';
import { analyseForm, formText, phrasesOf, type Form } from './index.ts';

const relationText = (form: Form, number: number) => {
  const phrases = phrasesOf(form);
  const { kind, of } = phrases[number - 1]!.relation;
  return of === null ? kind : `${kind} ${phrases.findIndex(({ id }) => id === of) + 1}`;
};

describe.each(FORM_KINDS.map((kind) => [`${kind.name}: ${kind.why}`, kind] as const))('%s', (_, kind) => {
  const form = analyseForm(kind.tune);
  const idAt = (at: Ticks) => placedNotes(kind.tune).find(({ onset }) => onset === at)!.note.id;

  it('begins its phrases there', () => {
    // After a tie, not inside it.
    expect(phrasesOf(form).map(({ notes }) => notes[0])).toEqual(kind.phrases.map(idAt));
  });

  it('begins its parts there', () => {
    expect(form.parts.map(({ phrases }) => phrases[0]!.notes[0])).toEqual(kind.parts.map(idAt));
  });

  it('says what its phrases are to each other, and to the key', () => {
    for (const [number, relation] of Object.entries(kind.relations))
      expect(relationText(form, Number(number))).toBe(relation === 'new' ? 'new' : relation.join(' '));
    if (kind.closings) expect(phrasesOf(form).map(({ closing }) => closing)).toEqual(kind.closings);
  });

  it('is played and learned so', () => {
    if (kind.letters !== null) expect(formText(form)).toBe(kind.letters);
    if (kind.newBars !== null) expect(form.learn.newBars).toBe(kind.newBars);
    if (kind.sizes) expect(phrasesOf(form).map(({ bars }) => bars)).toEqual(kind.sizes);
  });
});
