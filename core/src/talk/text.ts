/** The talk-through: what a teacher says at the stand, phrase by phrase. Every number, name, string and bar is the arrangement's. */
import type { Arrangement } from '../arrange/index.ts';
import { isExactCopy } from '../form/index.ts';
import type { FingeredNote, Position, Stop } from '../hand/index.ts';
import { stringNames } from '../instrument/index.ts';
import { USUAL_NAMES, type Names } from '../paper/index.ts';
import { fingerText, landingText, motionText, noteName, relationText } from '../words/index.ts';
import { PICKUP, talkFacts, type FingerRun, type TalkFacts, type Watch } from './facts.ts';

export const VOICES = ['fingers', 'names', 'both'] as const;
/** Finger numbers, note names, or both. */
export type Voice = (typeof VOICES)[number];

export interface TalkOptions {
  readonly voice: Voice;
  /** Without what the fingers do note by note. */
  readonly short: boolean;
  /** In plain words: no names of chords. */
  readonly plain?: boolean;
  readonly names: Names;
}
export const USUAL_TALK: TalkOptions = { voice: 'both', short: false, names: USUAL_NAMES };

export interface Talk {
  readonly phrase: string;
  readonly label: string;
  /** A line for each bar, where fingers or names are told note by note. */
  readonly text: string;
}

interface Speaker extends TalkOptions {
  readonly strings: readonly string[];
  /** Goes up from phrase to phrase, so that not every one is said alike. */
  readonly turn: number;
  /** A bow to each note, in the phrase before it too. */
  readonly bowsBefore: boolean;
}

/**
 * What to say, phrase by phrase.
 * @example talkThrough(arrangement)[0].label // 'A1'
 */
export function talkThrough(arrangement: Arrangement, options: TalkOptions = USUAL_TALK): readonly Talk[] {
  const strings = stringNames(arrangement.instrument);
  const all = talkFacts(arrangement);
  return all.map((facts, turn) => {
    const before = all[turn - 1]?.bow;
    const bowsBefore = before !== undefined && before.strokes > 0 && before.slurs === 0;
    return {
      phrase: facts.phrase.id,
      label: facts.phrase.label,
      text: phraseTalk(arrangement, facts, { ...options, strings, turn, bowsBefore }),
    };
  });
}

function phraseTalk(arrangement: Arrangement, facts: TalkFacts, speaker: Speaker): string {
  const { like } = facts;
  if (!facts.first) return 'Nothing sounds here.';
  const again = like !== null && isExactCopy(like.relation);
  const otherBow = like?.otherBow ? ', on the other bow' : '';
  // What is known already is not told again.
  if (again && like) {
    const said = like.sameFingers ? 'the same notes, the same fingers' : 'the same notes, but look at the fingers';
    return [
      `${like.label} again: ${said}${otherBow}.`,
      ...(like.sameFingers ? [] : fingerTexts(facts, speaker)),
      startText(facts, speaker),
      endText(facts, speaker),
    ].join(' ');
  }
  const relation = like ? `${capital(relationText(like.relation, like.label))}${otherBow}.` : '';
  // Where it is like another phrase, or told note by note, its turns are known.
  const motions = speaker.short && !like ? motionsText(facts, speaker) : '';
  const paragraphs = [
    [startText(facts, speaker), relation, motions],
    ...(speaker.short ? [] : fingerTexts(facts, speaker).map((text) => [text])),
    [watchText(arrangement, facts, speaker), bowText(facts, speaker), endText(facts, speaker)],
  ];
  const between = speaker.short ? ' ' : '\n';
  return paragraphs
    .map((sentences) => sentences.filter(Boolean).join(' '))
    .filter(Boolean)
    .join(between);
}

const capital = (text: string) => text.replace(/^./, (letter) => letter.toUpperCase());
const vary = ({ turn }: Speaker, ways: readonly string[]) => ways[turn % ways.length]!;

/** A note as it is called in this voice: "3 on the D string", "G", "G, 3 on the D string". */
function calledNote({ stops, pitches }: FingeredNote, { voice, names: called, strings }: Speaker): string {
  const names = pitches.map((pitch) => noteName(pitch, called.notes)).join(' and ');
  if (voice === 'names' || stops.length === 0) return names;
  const fingers = stops
    .map(({ finger, string, sign }) =>
      finger === 0
        ? `the open ${strings[string]}`
        : `${spokenFinger({ finger, sign }, called)} on the ${strings[string]} string`,
    )
    .join(' with ');
  // An open string has the name of its note already.
  if (fingers === `the open ${names}`) return fingers;
  return voice === 'fingers' ? fingers : `${names}, ${fingers}`;
}

/** What the hand reaches for is told among what to watch. */
const spokenFinger = ({ finger, sign }: Pick<Stop, 'finger' | 'sign'>, called: Names): string =>
  fingerText({ finger, sign: sign === 'low' || sign === 'high' ? sign : 'home' }, called);

function startText(facts: TalkFacts, speaker: Speaker): string {
  const note = calledNote(facts.first!, speaker);
  const bow = facts.startsWith ? `, ${facts.startsWith} bow` : '';
  const opening = vary(speaker, ['Start on', 'Begin with', 'Here you start on']);
  const { position, stops } = facts.first!;
  const place =
    speaker.voice !== 'names' && position !== null && position !== 'I' && stops.some(({ finger }) => finger > 0)
      ? `, in ${placeText(position)}`
      : '';
  const verb = facts.pickup ? vary(speaker, ['The pickup is', 'It leads in with', 'The pickup comes on']) : opening;
  return `${verb} ${note}${place}${bow}.`;
}

function motionsText({ motions }: TalkFacts, { names, plain = false }: Speaker): string {
  const [text] = new Set(motions.map((motion) => motionText(motion, names, plain)));
  return text ? `Listen: ${text}.` : '';
}

/** Bar by bar what the fingers do, the string named where it changes; bars that were told before by their number. */
function fingerTexts(facts: TalkFacts, speaker: Speaker): readonly string[] {
  const { bars } = facts;
  let string: number | null = null;
  // The first position is where a hand is if nothing is said; where it begins elsewhere, that was said.
  const opening = facts.first!;
  const hand: Hand = { said: opening.stops.some(({ finger }) => finger > 0) ? (opening.position ?? 'I') : 'I' };
  const texts: string[] = [];
  for (let index = 0; index < bars.length; index += 1) {
    const { bar, runs, as, rests } = bars[index]!;
    if (as !== null) {
      // As many as follow each other there and here.
      let count = 1;
      while (bars[index + count]?.as === as + count && bars[index + count]!.bar === bar + count) count += 1;
      texts.push(`${barsText(bar, count)}: as ${barsText(as, count).toLowerCase()}.`);
      index += count - 1;
      string = null;
      continue;
    }
    const said = runs.map((run) => {
      const text = runText(run, { string, rests, hand }, speaker);
      string = run.string;
      return text;
    });
    texts.push(`${bar === PICKUP ? 'Pickup' : `Bar ${bar}`}: ${said.join(speaker.voice === 'names' ? ' ' : '; ')}.`);
  }
  return texts;
}

function barsText(first: number, count: number): string {
  if (count === 1) return `Bar ${first}`;
  return `Bars ${first} ${count === 2 ? 'and' : 'to'} ${first + count - 1}`;
}

function runText({ notes, string }: FingerRun, { string: before, rests, hand }: Told, speaker: Speaker): string {
  const { voice, names: called, strings } = speaker;
  const names = (note: FingeredNote) => note.pitches.map((pitch) => noteName(pitch, called.notes)).join('+');
  const digits = (note: FingeredNote) => note.stops.map((stop) => spokenFinger(stop, called)).join(' and ');
  const plain = (note: FingeredNote) =>
    voice === 'names' ? names(note) : voice === 'both' ? `${names(note)} ${digits(note)}` : digits(note);
  /** What happens on the way to a note, said where it falls. */
  const each = (note: FingeredNote) => {
    const rest = rests.has(note.id) ? 'rest, ' : '';
    if (note.grace) return `${rest}grace ${plain(note)}`;
    const stop = note.stops[0];
    if (voice === 'names' || !stop) return rest + plain(note);
    const shift = movedText(note, hand);
    if (!note.extension || stop.sign !== 'extended') return rest + shift + plain(note);
    const reaches = stop.finger === 1 ? '1 reaches back' : `${stop.finger} reaches`;
    return `${rest}${shift}${reaches}${voice === 'both' ? ` for ${names(note)}` : ''}`;
  };
  if (voice === 'names') return notes.map(each).join(' ');
  if (string === null) {
    return notes
      .map((note) =>
        note.stops.length === 0
          ? `leave out ${names(note)}`
          : `${voice === 'both' ? `${names(note)} ` : ''}${note.stops
              .map(
                ({ finger, sign, string: own }) =>
                  `${spokenFinger({ finger, sign }, called)} on the ${strings[own]} string`,
              )
              .join(' with ')}`,
      )
      .join(', ');
  }
  const where = string === before ? '' : `${strings[string]} string: `;
  return `${where}${notes.map(each).join(', ')}`;
}

/** Which position was said last. */
interface Hand {
  said: Position;
}

/** What is known where a run begins. */
interface Told {
  /** The string that was named last. */
  readonly string: number | null;
  readonly rests: ReadonlySet<string>;
  readonly hand: Hand;
}

/** Said before a stopped note where the hand is elsewhere than it was told. */
function movedText({ stops, position, shift }: FingeredNote, hand: Hand): string {
  const to = shift?.to ?? position;
  if (to === null || to === hand.said || stops.every(({ finger }) => finger === 0)) return '';
  hand.said = to;
  return `${shift ? 'to' : 'in'} ${placeText(to)}: `;
}

const placeText = (position: Position): string => (position === 'half' ? 'half position' : `position ${position}`);

function watchText({ instrument }: Arrangement, { watch, like }: TalkFacts, speaker: Speaker): string {
  // Told note by note, moves of the hand, and low and high fingers, are said where they fall.
  const minded = speaker.short
    ? watch.slice(0, like ? MOST_SHORT - 1 : MOST_SHORT)
    : watch.filter(({ kind }) => speaker.voice === 'names' || !SAID_THERE.has(kind));
  if (minded.length === 0) return '';
  const texts = minded.map((one) => `${oneWatched(one, instrument, speaker)} in ${barsNamed(one.bars)}`);
  const [first, ...rest] = texts;
  const lead = vary(speaker, ['Mind', 'Watch', 'Look out for']);
  return `${lead} ${[first, ...rest].join('; ')}.`;
}

const SAID_THERE: ReadonlySet<Watch['kind']> = new Set(['shift', 'extension', 'sign']);
/** A short talk minds so many things, one fewer where the phrase is known. */
const MOST_SHORT = 2;

function barsNamed(all: readonly number[]): string {
  const bars = all.filter((bar) => bar !== PICKUP);
  const named = bars.length === 0 ? [] : [`${bars.length === 1 ? 'bar' : 'bars'} ${bars.join(', ')}`];
  return [...(all.includes(PICKUP) ? ['the pickup'] : []), ...named].join(' and ');
}

function oneWatched(watch: Watch, instrument: Arrangement['instrument'], speaker: Speaker): string {
  const { note } = watch;
  const name = note.pitches.map((pitch) => noteName(pitch, speaker.names.notes)).join(' and ');
  switch (watch.kind) {
    case 'sign': {
      const { string } = watch.stop;
      return speaker.voice === 'names'
        ? `the ${noteName(watch.stop.pitch, speaker.names.notes)}`
        : `the ${fingerText(watch.stop, speaker.names)} on the ${speaker.strings[string]} string`;
    }
    case 'fourth':
      return `the fourth finger for ${name}`;
    case 'extension':
      return `the hand that opens for ${name}`;
    case 'block':
      return `one finger over two strings for ${name}`;
    case 'hop':
      return `the finger that jumps to ${name}`;
    case 'hold':
      return `the finger that stays down on ${name}`;
    case 'long':
      return `${name}, held for ${watch.beats === 1 ? 'a beat' : `${watch.beats} beats`}`;
    case 'triplet':
      return 'the triplet';
    case 'dotted':
      return `the dotted ${name}`;
    case 'off-beat':
      return `${name} before the beat`;
    case 'shift': {
      const landing = landingText(note.shift!.landing, instrument, speaker.names);
      return `the shift to ${placeText(note.shift!.to)} for ${name}${landing && speaker.voice !== 'names' ? ` (${landing})` : ''}`;
    }
  }
}

function bowText({ bow: { slurs, slurred, longest, strokes, retakes }, bars }: TalkFacts, speaker: Speaker): string {
  const lifts = retakes === 0 ? '' : retakes === 1 ? ', and one lift' : `, and ${retakes} lifts`;
  if (strokes === 0) return '';
  // Said where it begins to be so.
  if (slurs === 0) return speaker.bowsBefore && retakes === 0 ? '' : `A bow to each note${lifts}.`;
  const pickup = bars[0]?.bar === PICKUP;
  const named = slurred.slice(0, MOST_SLURS).map(({ notes, bar }, index) => {
    const said = notes.map((note) =>
      speaker.voice === 'fingers'
        ? note.stops.map((stop) => spokenFinger(stop, speaker.names)).join(' and ')
        : note.pitches.map((pitch) => noteName(pitch, speaker.names.notes)).join('+'),
    );
    const first = index === 0 && pickup && notes[0]!.id === bars[0]!.runs[0]!.notes.find(({ grace }) => !grace)?.id;
    return `${said.join(', ')} in ${first ? 'the pickup' : `bar ${bar}`}`;
  });
  if (slurs <= MOST_SLURS && longest <= MOST_NAMED) return `Slur ${named.join(' and ')}${lifts}.`;
  const where = [...new Set(slurred.map(({ bar }) => bar))].filter((bar) => bar !== PICKUP);
  return `Slurs in ${where.length === 1 ? 'bar' : 'bars'} ${where.join(', ')}, up to ${longest} notes to a bow${lifts}.`;
}
/** So many slurs are told note by note, of so many notes; more are told by their bars. */
const MOST_SLURS = 3;
const MOST_NAMED = 4;

function endText(facts: TalkFacts, speaker: Speaker): string {
  const { last, lastBeats, endsWith } = facts;
  const held = Number.isInteger(lastBeats) && lastBeats >= 2 ? `, held for ${lastBeats} beats` : '';
  const bow = endsWith ? `, ${endsWith} bow` : '';
  // In a breath, its name is enough.
  const name = last!.pitches.map((pitch) => noteName(pitch, speaker.names.notes)).join(' and ');
  const note = speaker.short && speaker.voice !== 'fingers' ? name : calledNote(last!, speaker);
  return `${vary(speaker, ['It ends on', 'The last note is', 'It comes to rest on'])} ${note}${bow}${held}.`;
}
