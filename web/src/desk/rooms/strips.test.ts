import { describe, expect, it } from 'vitest';
import { FIRST_DECISIONS, arrange, decided, type Arrangement, type DecisionChange } from '@nokta/core/arrange';
import { readAbc } from '@nokta/core/formats';
import { lockOf } from '@nokta/core/hand';
import { notesByPhrase, stripViews, within } from './strips.ts';

const TUNE = `X:1
T:t
M:4/4
L:1/8
K:D
{e}f2 fe dcBA | B2 AG FEDE | FGAB c2 de | f2 e2 d4 |
a2 ag fedc | BAGF EFGA | B2 cd e-e2f | d4 d4 |]`;

function arranged(change: DecisionChange = {}, music = TUNE): Arrangement {
  const read = readAbc(music);
  if (!read.ok) throw new Error('unreadable');
  return arrange(read.value.tune, decided(FIRST_DECISIONS, change));
}

describe('what the strips draw', () => {
  it('stands together phrase by phrase: graces with their note, tied notes with their first, strokes with theirs', () => {
    const arrangement = arranged();
    const views = stripViews(arrangement);
    expect(views.length).toBeGreaterThan(1);
    const { notes, starts } = views[0]!;
    expect(notes[0]!.grace).toBe(true);
    expect(starts.size).toBeGreaterThan(0);
    expect(views.flatMap((view) => view.notes).map(({ id }) => id)).toEqual(
      arrangement.fingering.notes.map(({ id }) => id),
    );
    expect(views.reduce((sum, view) => sum + view.starts.size, 0)).toBe(arrangement.bowing.starts.size);
    const tied = arrangement.fingering.notes.find(({ ids }) => ids.length > 1)!;
    expect(views.filter(({ ids }) => tied.ids.every((id) => ids.has(id)))).toHaveLength(1);
  });

  it('stays the same object where a decision elsewhere changes nothing that is seen', () => {
    const before = stripViews(arranged());
    const last = before.at(-1)!.notes.find(({ stops }) => stops[0]?.finger !== 0)!;
    const after = stripViews(arranged({ hand: { locks: { [last.id]: lockOf(last, 'violin') } } }), before);
    expect(after.slice(0, -1).every((view, index) => view === before[index])).toBe(true);
    expect(after.at(-1)).not.toBe(before.at(-1));
    expect(after.at(-1)!.notes.find(({ id }) => id === last.id)!.locked).toBe(true);
  });

  it('is another one where fingers, bows or the instrument are others', () => {
    const before = stripViews(arranged());
    expect(stripViews(arranged(), before)).toEqual(before);
    expect(
      stripViews(arranged({ key: { instrument: 'cello', transpose: -12 } }), before).some((view) =>
        before.includes(view),
      ),
    ).toBe(false);
    const slurred = TUNE.replace('dcBA', '(dcBA)');
    expect(stripViews(arranged({}, slurred), before)[0]).not.toBe(before[0]);
  });

  it('takes the notes of another fingering by the phrases that are shown', () => {
    const arrangement = arranged();
    const views = stripViews(arrangement);
    const phrases = views.map(({ phrase }) => phrase);
    expect(notesByPhrase(phrases, arrangement.fingering)).toEqual(views.map(({ notes }) => notes));
    expect(notesByPhrase(phrases.slice(1), arrangement.fingering)).toEqual(views.slice(1).map(({ notes }) => notes));
  });
});

it('hands a strip a set only for notes of its own', () => {
  const own = new Set(['n1', 'n2']);
  const far = within(new Set(['n7']), own);
  expect(far.size).toBe(0);
  expect(within(new Set(['n8']), own)).toBe(far);
  const near = new Set(['n2', 'n7']);
  expect(within(near, own)).toBe(near);
});
