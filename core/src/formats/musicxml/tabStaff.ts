/** A second staff of finger tablature, as MusicXML has it: a line for each string, its semitones as frets. */
import { midi, type Bar, type Note, type Pitch, type TuneEvent } from '../../music/index.ts';
import { el, type XmlNode } from './xml.ts';

const STAFF = 2;
/** A voice number that no melody uses, so that readers keep the two staves apart. */
const VOICE = 5;

export const TAB_CLEF: XmlNode = el('clef', { number: STAFF }, el('sign', {}, 'TAB'), el('line', {}, 5));

/** @param strings open strings, low to high; staff lines count from the lowest */
export function staffDetails(strings: readonly Pitch[]): XmlNode {
  return el(
    'staff-details',
    { number: STAFF },
    el('staff-lines', {}, strings.length),
    strings.map((pitch, index) =>
      el(
        'staff-tuning',
        { line: index + 1 },
        el('tuning-step', {}, pitch.letter),
        pitch.alter ? el('tuning-alter', {}, pitch.alter) : null,
        el('tuning-octave', {}, pitch.octave),
      ),
    ),
  );
}

/** The bar's notes once more, on their strings; a note without a string rests there. */
export function tabNotes(bar: Bar, strings: readonly Pitch[]): readonly XmlNode[] {
  return [el('backup', {}, el('duration', {}, bar.length)), ...bar.events.flatMap((event) => tabNote(event, strings))];
}

function tabNote(event: TuneEvent, strings: readonly Pitch[]): readonly XmlNode[] {
  const heads = event.kind === 'note' ? placedHeads(event, strings) : [];
  if (heads.length === 0) {
    return [el('note', { 'print-object': 'no' }, el('rest'), el('duration', {}, event.duration), ...tail(event))];
  }
  return heads.map(({ pitch, string, fret, finger }, index) =>
    el(
      'note',
      {},
      index > 0 ? el('chord') : null,
      el(
        'pitch',
        {},
        el('step', {}, pitch.letter),
        pitch.alter ? el('alter', {}, pitch.alter) : null,
        el('octave', {}, pitch.octave),
      ),
      el('duration', {}, event.duration),
      ...tail(event),
      el(
        'notations',
        {},
        el(
          'technical',
          {},
          finger === undefined ? null : el('fingering', {}, finger),
          el('string', {}, string),
          el('fret', {}, fret),
        ),
      ),
    ),
  );
}

function tail({ value, tuplet }: TuneEvent): readonly (XmlNode | null)[] {
  return [
    el('voice', {}, VOICE),
    el('type', {}, value.type),
    ...Array.from({ length: value.dots }, () => el('dot')),
    tuplet
      ? el('time-modification', {}, el('actual-notes', {}, tuplet.actual), el('normal-notes', {}, tuplet.normal))
      : null,
    el('staff', {}, STAFF),
  ];
}

function placedHeads(note: Note, strings: readonly Pitch[]) {
  return note.heads.flatMap(({ pitch, string, finger }) => {
    const open = string === undefined ? undefined : strings[strings.length - string];
    const fret = open ? midi(pitch) - midi(open) : -1;
    return fret >= 0 ? [{ pitch, string, fret, finger: finger === 'T' ? undefined : finger }] : [];
  });
}
