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

/** A note on a string; a tied one stays on the string that it was struck on. */
interface Placed {
  readonly pitch: Pitch;
  readonly string: number;
  readonly fret: number;
  readonly finger: string | undefined;
  readonly tied: boolean;
  /** It sounds on from the note before. */
  readonly held: boolean;
}

/**
 * Writes the bars' notes once more, on their strings, bar after bar; a note without a string rests there.
 * @param strings open strings, low to high
 */
export function tabWriter(strings: readonly Pitch[], writtenOctave: number): (bar: Bar) => readonly XmlNode[] {
  let ringing: readonly Placed[] = [];
  return (bar) => [
    el('backup', {}, el('duration', {}, bar.length)),
    ...bar.events.flatMap((event) => {
      const heads = event.kind === 'note' ? placedHeads(event, strings, ringing) : [];
      ringing = heads.filter(({ tied }) => tied);
      return tabNote(event, heads, writtenOctave);
    }),
  ];
}

function tabNote(event: TuneEvent, heads: readonly Placed[], writtenOctave: number): readonly XmlNode[] {
  if (heads.length === 0) {
    return [el('note', { 'print-object': 'no' }, el('rest'), el('duration', {}, event.duration), ...tail(event))];
  }
  return heads.map(({ pitch, string, fret, finger, tied, held }, index) =>
    el(
      'note',
      {},
      index > 0 ? el('chord') : null,
      el(
        'pitch',
        {},
        el('step', {}, pitch.letter),
        pitch.alter ? el('alter', {}, pitch.alter) : null,
        // The part's transposition holds for both of its staves.
        el('octave', {}, pitch.octave + writtenOctave),
      ),
      el('duration', {}, event.duration),
      held ? el('tie', { type: 'stop' }) : null,
      tied ? el('tie', { type: 'start' }) : null,
      ...tail(event),
      el(
        'notations',
        {},
        tied ? el('tied', { type: 'start' }) : null,
        held ? el('tied', { type: 'stop' }) : null,
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

function placedHeads(note: Note, strings: readonly Pitch[], ringing: readonly Placed[]): readonly Placed[] {
  return note.heads.flatMap((head): readonly Placed[] => {
    const { pitch, finger, tied = false } = head;
    const before = ringing.find((other) => midi(other.pitch) === midi(pitch));
    const string = head.string ?? before?.string;
    const open = string === undefined ? undefined : strings[strings.length - string];
    const fret = open ? midi(pitch) - midi(open) : -1;
    if (string === undefined || fret < 0) return [];
    return [{ pitch, string, fret, finger: finger === 'T' ? undefined : finger, tied, held: before !== undefined }];
  });
}
