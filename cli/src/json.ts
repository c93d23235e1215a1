/** The JSON that commands print. A field once printed keeps its name. */
import type { Arrangement } from '@nokta/core/arrange';
import { placesOf } from '@nokta/core/arrange';
import { formSummary, phrasesOf, type Form, type Phrase, type Relation } from '@nokta/core/form';
import { bowRepairs, type BowFlag, type TravelFlag } from '@nokta/core/bow';
import { hardPlaces, quarters, secondBest, type FingeredNote, type Stop, type Way } from '@nokta/core/hand';
import { keyName, midi, pitchName, type Tune } from '@nokta/core/music';
import {
  causeTexts,
  exceptionText,
  flagText,
  repairText,
  tallyTexts,
  travelFlagText,
  differenceText,
  differsText,
  figureText,
  lengthText,
  lickText,
  motionText,
  glideText,
  helpText,
  landingText,
  problemText,
  reasonTexts,
  stopsText,
  symbol,
  whyTexts,
} from '@nokta/core/words';

export function formJson(tune: Tune, form: Form) {
  const phrase = ({ id, label, start, end, bars, closing, relation, ...more }: Phrase) => ({
    id,
    label,
    from: start,
    to: end,
    bars,
    closing,
    relation: {
      ...relation,
      differs: differsText(relation.differs),
      differences: relation.differences.map((one) => ({ text: differenceText(one), own: one.own, other: one.other })),
    },
    shares: more.shares,
    motions: more.motions.map((motion) => ({
      kind: motion.kind,
      direction: motion.direction,
      notes: motion.notes,
      text: motionText(motion),
    })),
    figures: more.figures.map((figure) => ({ kind: figure.kind, notes: figure.notes, text: figureText(figure) })),
    held: more.held,
  });
  return {
    summary: formSummary(tune, form),
    ...form,
    key: keyName(form.key),
    licks: form.licks.map((lick) => ({ id: lick.id, beats: lick.beats, text: lickText(lick), places: lick.places })),
    parts: form.parts.map((part) => ({ ...part, phrases: part.phrases.map(phrase) })),
  };
}

/** The form as a teacher would read it out. */
export function formLines(tune: Tune, form: Form): string {
  const phrases = phrasesOf(form);
  const labelOf = (id: string | null) => phrases.find((phrase) => phrase.id === id)?.label ?? '';
  const parts = form.parts.map(({ label, bars, times, length, beginning }) => {
    const often = beginning ? ', only its beginning' : times > 1 ? `, ${times} times` : '';
    return `${label} bars ${bars[0]}–${bars[1]} (${length}${often})`;
  });
  const lines = phrases.flatMap(({ label, start, closing, relation, shares, figures, motions, ...phrase }) => [
    `  ${label}  from bar ${start.bar} beat ${start.beat}, ${lengthText(phrase)}, ${closing}, ${relationText(relation, labelOf)}`,
    ...relation.differences.map((one) => `      ${differenceText(one)}`),
    ...shares.map(({ bar, ofPhrase, ofBar }) => `      bar ${bar} is bar ${ofBar} (${labelOf(ofPhrase)})`),
    ...figures.map((figure) => `      ${figureText(figure)}`),
    ...(motions.length > 0 ? [`      ${motions.map((motion) => motionText(motion)).join('; ')}`] : []),
  ]);
  const licks = form.licks.map(
    ({ pitches, beats, places }) =>
      `  ${lickText({ pitches })}  ${beats} ${beats === 1 ? 'beat' : 'beats'}: ${places.map(({ bar, beat }) => `bar ${bar} beat ${beat}`).join(', ')}`,
  );
  const { learn } = form;
  return [
    `${tune.title}: ${formSummary(tune, form)}`,
    parts.join('; '),
    ...lines,
    ...(licks.length > 0 ? ['Licks', ...licks] : []),
    `Learn ${learn.newBars} bars, play ${learn.totalBars}.`,
    `As it comes: ${learn.inOrder.map(labelOf).join(' ')}`,
    `Most of the tune first: ${learn.mostTuneFirst.map(labelOf).join(' ')}`,
    ...(learn.own ? [`The teacher's order: ${learn.own.map(labelOf).join(' ')}`] : []),
  ].join('\n');
}

function relationText({ kind, of, differs }: Relation, labelOf: (id: string | null) => string): string {
  if (kind === 'new') return 'new';
  const what = differsText(differs);
  return `${kind.replaceAll('-', ' ')}: ${labelOf(of)}${what ? ` (${what})` : ''}`;
}

export function fingeringJson({ tune, fingering, instrument, tuning, decisions, hand }: Arrangement) {
  const places = placesOf(tune);
  const { strings } = instrument;
  const stopJson = (stop: Stop, { position }: Pick<FingeredNote, 'position'>) => ({
    pitch: pitchName(stop.pitch),
    midi: midi(stop.pitch),
    string: strings[stop.string]!.name,
    stringPitch: pitchName(tuning.pitches[stop.string]!),
    finger: stop.finger,
    sign: stop.sign,
    symbol: symbol(stop, instrument),
    position,
  });
  const wayJson = ({ extra, differences, changed }: Way) => ({
    extra,
    reasons: reasonTexts(differences),
    changed: changed.map(({ id, stops }) => ({
      id,
      text: stopsText({ stops }, instrument),
      stops: stops.map(({ string, finger }) => ({ string: strings[string]!.name, finger })),
    })),
  });
  const second = secondBest(hand);
  return {
    instrument: instrument.id,
    tuning: tuning.pitches.map(pitchName),
    preset: decisions.hand.wishes.preset,
    notes: fingering.notes
      .map((note) => hand.explained(note.id) ?? note)
      .map((note) => ({
        id: note.id,
        ...places.get(note.id),
        onset: quarters(note.onset),
        duration: quarters(note.duration),
        grace: note.grace,
        pitches: note.pitches.map(pitchName),
        stops: note.stops.map((stop) => stopJson(stop, note)),
        shift: note.shift && { ...note.shift, landing: landingText(note.shift.landing, instrument) },
        extension: note.extension,
        block: note.block,
        hold: note.hold,
        hop: note.hop,
        slide: note.glide && glideText(note.glide),
        locked: note.locked,
        unlikeSamePhrase: note.unusual,
        why: whyTexts(note, instrument),
        alternatives: note.alternatives.map(({ stops, extra, differences, position }) => ({
          stops: stops.map((stop) => stopJson(stop, { position })),
          text: stopsText({ stops }, instrument),
          extra,
          reasons: reasonTexts(differences),
        })),
      })),
    totals: fingering.totals,
    secondBest: second && wayJson(second),
    hard: hardPlaces(hand).map((place) => ({
      notes: place.notes,
      bar: places.get(place.notes[0]!)?.bar,
      cost: place.cost,
      causes: causeTexts(place),
      helps: place.helps.map((help) => ({
        kind: help.kind === 'no-shift' ? ('other-fingers' as const) : help.kind,
        text: helpText(help),
        ...('way' in help && { way: wayJson(help.way) }),
      })),
    })),
    problems: fingering.problems.map((problem) => ({
      noteId: problem.noteId,
      message: problemText(problem, instrument, tuning),
    })),
  };
}

/** One line for each phrase: what a teacher would read out. */
export function fingeringText({ form, fingering, bowing, instrument }: Arrangement): string {
  const { strings } = instrument;
  return phrasesOf(form)
    .map((phrase) => {
      const inPhrase = new Set(phrase.notes);
      let last = -1;
      const fingers = fingering.notes
        .filter(({ id }) => inPhrase.has(id))
        .map(({ stops }) => {
          if (stops.length === 0) return '?';
          const shown = stops.map((stop) => symbol(stop, instrument)).join('+');
          const string = stops.at(-1)!.string;
          const prefix = string === last ? '' : `${strings[string]!.name}:`;
          last = string;
          return prefix + shown;
        });
      const bow = bowing.phrases.find(({ id }) => id === phrase.id);
      return `${phrase.label}  ${fingers.join(' ')}${bow ? `  (starts ${bow.startsWith})` : ''}`;
    })
    .join('\n');
}

const tenth = (length: number): number => Math.round(length * 10) / 10;
const thousandth = (share: number): number => Math.round(share * 1000) / 1000;

export function bowJson(arrangement: Arrangement) {
  const { tune, form, bowing, fingering, decisions, planner } = arrangement;
  const travel = arrangement.travel();
  const places = placesOf(tune);
  const placeOf = (note: string) => places.get(note)!;
  const strings = new Map(fingering.notes.map(({ id, stops }) => [id, stops.map(({ string }) => string)]));
  const isFlagOfTravel = (flag: BowFlag | TravelFlag): flag is TravelFlag =>
    flag.kind === 'out-of-bow' || flag.kind === 'sticks-out';
  const flags = [...bowing.flags, ...travel.flags].map((flag) => ({
    kind: flag.kind,
    note: flag.note,
    ...placeOf(flag.note),
    ...('time' in flag && { time: flag.time }),
    message: isFlagOfTravel(flag) ? travelFlagText(flag) : flagText(flag),
    repair: isFlagOfTravel(flag) ? repairOf(arrangement, flag) : null,
  }));
  return {
    school: decisions.bow.school,
    pattern: decisions.bow.pattern,
    hairMm: travel.hair,
    strokes: bowing.strokes.map(({ notes, direction, retake, hook, time, onset, duration }, index) => {
      const there = travel.strokes[index]!;
      return {
        notes,
        ...placeOf(notes[0]!),
        time,
        onset: quarters(onset),
        duration: quarters(duration),
        direction,
        retake,
        hook,
        crossings: crossingsIn(notes, strings),
        lengthMm: tenth(there.length),
        naturalMm: tenth(there.natural),
        startMm: tenth(there.start),
        endMm: tenth(there.end),
        speed: tenth(there.speed),
        strain: thousandth(there.strain),
      };
    }),
    drift: travel.strokes.map(({ drift }) => ({ startMm: tenth(drift.start), endMm: tenth(drift.end) })),
    phrases: phrasesOf(form).flatMap(({ id, label }) => {
      const bow = bowing.phrases.find((one) => one.id === id);
      if (!bow) return [];
      return [
        { id, label, startsWith: bow.startsWith, endsWith: bow.endsWith, region: travel.regions.get(id) ?? 'whole' },
      ];
    }),
    flags,
    exceptions: bowing.exceptions.map((one) => ({
      kind: one.kind,
      note: one.note,
      ...placeOf(one.note),
      reason: exceptionText(one),
    })),
    alternatives: [...new Set(bowing.strokes.flatMap(({ notes }) => notes))].flatMap((note) =>
      planner.alternatives(note).map(({ at, change, extra, differences }) => ({
        at,
        change,
        extra,
        reasons: tallyTexts(differences),
      })),
    ),
  };
}

/** The first repair that works, as a text; a phrase that comes round may warn of the same more than once. */
function repairOf({ tune, form, tempo, instrument, decisions }: Arrangement, flag: TravelFlag): string | null {
  const [repair] = bowRepairs({ tune, form, tempo, instrument }, decisions.bow, flag);
  return repair ? repairText(repair, decisions.bow.own) : null;
}

/** How often the string changes within a stroke. */
function crossingsIn(notes: readonly string[], strings: ReadonlyMap<string, readonly number[]>): number {
  const tops = notes.flatMap((note) => strings.get(note)?.slice(-1) ?? []);
  return tops.filter((string, index) => index > 0 && string !== tops[index - 1]).length;
}

/** One line for each phrase: its strokes, with the notes on each. */
export function bowText(arrangement: Arrangement): string {
  const { form, bowing } = arrangement;
  const { regions, flags, hair } = arrangement.travel();
  const places = placesOf(arrangement.tune);
  const lines = phrasesOf(form).map(({ id, label, notes }) => {
    const own = new Set(notes);
    const strokes = bowing.strokes
      .filter(({ time, notes: on }) => time === 1 && own.has(on[0]!))
      .map(({ direction, notes: on, retake, hook }) => {
        const how = retake ? '^' : hook ? '~' : '';
        return `${how}${direction === 'down' ? 'd' : 'u'}${on.length > 1 ? on.length : ''}`;
      });
    return `${label}  ${strokes.join(' ')}  (${regions.get(id) ?? 'whole'})`;
  });
  const told = (note: string, text: string) => `  bar ${places.get(note)!.bar} beat ${places.get(note)!.beat}: ${text}`;
  return [
    ...lines,
    `d down, u up, with the number of notes; ^ lifted before, ~ stopped before. Hair ${hair} mm.`,
    ...bowing.flags.map((flag) => told(flag.note, flagText(flag))),
    ...flags.map((flag) => told(flag.note, travelFlagText(flag))),
    ...bowing.exceptions.map((one) => told(one.note, exceptionText(one))),
  ].join('\n');
}
