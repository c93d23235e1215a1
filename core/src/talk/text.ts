/** The talk-through: what a teacher says at the stand, phrase by phrase. Every number, name, string and bar is the arrangement's. */
import type { Arrangement } from '../arrange/index.ts';
import { isExactCopy } from '../form/index.ts';
import type { FingeredNote, Stop } from '../hand/index.ts';
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
}

/**
 * What to say, phrase by phrase.
 * @example talkThrough(arrangement)[0].label // 'A1'
 */
export function talkThrough(arrangement: Arrangement, options: TalkOptions = USUAL_TALK): readonly Talk[] {
  const strings = stringNames(arrangement.instrument);
  return talkFacts(arrangement).map((facts, turn) => ({
    phrase: facts.phrase.id,
    label: facts.phrase.label,
    text: phraseTalk(arrangement, facts, { ...options, strings, turn }),
  }));
}

function phraseTalk(arrangement: Arrangement, facts: TalkFacts, speaker: Speaker): string {
  const { like } = facts;
  if (!facts.first) return 'Nothing sounds here.';
  const again = like !== null && isExactCopy(like.relation);
  // What is known already is not told again.
  if (again && like) {
    const said = like.sameFingers ? 'the same notes, the same fingers' : 'the same notes, but look at the fingers';
    return [
      `${like.label} again: ${said}.`,
      ...(like.sameFingers ? [] : fingerTexts(facts, speaker)),
      startText(facts, speaker),
      endText(facts, speaker),
    ].join(' ');
  }
  const relation = like ? `${capital(relationText(like.relation, like.label))}.` : '';
  const paragraphs = [
    [startText(facts, speaker), relation, motionsText(facts, speaker)],
    ...(speaker.short ? [] : fingerTexts(facts, speaker).map((text) => [text])),
    [watchText(arrangement, facts, speaker), bowText(facts), endText(facts, speaker)],
  ];
  const between = speaker.short ? ' ' : '\n';
  return paragraphs.map((sentences) => sentences.filter(Boolean).join(' ')).join(between);
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
  return voice === 'fingers' ? fingers : `${names}, ${fingers}`;
}

/** What the hand reaches for is told among what to watch. */
const spokenFinger = ({ finger, sign }: Pick<Stop, 'finger' | 'sign'>, called: Names): string =>
  fingerText({ finger, sign: sign === 'low' || sign === 'high' ? sign : 'home' }, called);

function startText(facts: TalkFacts, speaker: Speaker): string {
  const note = calledNote(facts.first!, speaker);
  const bow = facts.startsWith ? `, ${facts.startsWith} bow` : '';
  const opening = vary(speaker, ['Start on', 'Begin with', 'Here you start on']);
  const verb = facts.pickup ? vary(speaker, ['The pickup is', 'It leads in with', 'The pickup comes on']) : opening;
  return `${verb} ${note}${bow}.`;
}

function motionsText({ motions }: TalkFacts, { names }: Speaker): string {
  const texts = [...new Set(motions.map((motion) => motionText(motion, names)))].slice(0, 2);
  if (texts.length === 0) return '';
  return texts.length === 1 ? `Listen for this: ${texts[0]}.` : `Listen for this: ${texts[0]}; then ${texts[1]}.`;
}

/** Bar by bar what the fingers do, the string named where it changes. */
function fingerTexts({ bars }: TalkFacts, speaker: Speaker): readonly string[] {
  let string: number | null = null;
  return bars.map(({ bar, runs }) => {
    const said = runs.map((run) => {
      const text = runText(run, string, speaker);
      string = run.string;
      return text;
    });
    return `${bar === PICKUP ? 'Pickup' : `Bar ${bar}`}: ${said.join(speaker.voice === 'names' ? ' ' : '; ')}.`;
  });
}

function runText(
  { notes, string }: FingerRun,
  before: number | null,
  { voice, names: called, strings }: Speaker,
): string {
  const names = (note: FingeredNote) => note.pitches.map((pitch) => noteName(pitch, called.notes)).join('+');
  if (voice === 'names') return notes.map(names).join(' ');
  const digits = (note: FingeredNote) => note.stops.map((stop) => spokenFinger(stop, called)).join(' and ');
  const each = (note: FingeredNote) => (voice === 'both' ? `${names(note)} ${digits(note)}` : digits(note));
  if (string === null) {
    return notes
      .map((note) =>
        note.stops.length === 0
          ? `${names(note)} out of reach`
          : `${voice === 'both' ? `${names(note)} ` : ''}${note.stops
              .map(
                ({ finger, sign, string: own }) =>
                  `${spokenFinger({ finger, sign }, called)} on the ${strings[own]} string`,
              )
              .join(' with ')}`,
      )
      .join(', ');
  }
  const where = string === before ? '' : `on the ${strings[string]} string `;
  return `${where}${notes.map(each).join(voice === 'both' ? ', ' : ' ')}`;
}

function watchText({ instrument }: Arrangement, { watch }: TalkFacts, speaker: Speaker): string {
  if (watch.length === 0) return '';
  const texts = watch.map((one) => `${oneWatched(one, instrument, speaker)} in ${barsNamed(one.bars)}`);
  const [first, ...rest] = texts;
  const lead = vary(speaker, ['Mind', 'Watch', 'Look out for']);
  return `${lead} ${[first, ...rest].join('; ')}.`;
}

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
    case 'shift': {
      const landing = landingText(note.shift!.landing, instrument, speaker.names);
      return `the shift to ${note.shift!.to} for ${name}${landing && speaker.voice !== 'names' ? ` (${landing})` : ''}`;
    }
  }
}

function bowText({ bow: { slurs, longest, strokes, retakes } }: TalkFacts): string {
  const lifts = retakes === 0 ? '' : retakes === 1 ? ', and one lift' : `, and ${retakes} lifts`;
  if (strokes === 0) return '';
  if (slurs === 0) return `A bow to each note${lifts}.`;
  return `${slurs === 1 ? 'One slur' : `${slurs} slurs`}, up to ${longest} notes to a bow${lifts}.`;
}

function endText(facts: TalkFacts, speaker: Speaker): string {
  const { last, lastBeats, endsWith } = facts;
  const held = Number.isInteger(lastBeats) && lastBeats >= 2 ? `, held for ${lastBeats} beats` : '';
  const bow = endsWith ? `, ${endsWith} bow` : '';
  return `${vary(speaker, ['It ends on', 'The last note is', 'It comes to rest on'])} ${calledNote(last!, speaker)}${bow}${held}.`;
}
