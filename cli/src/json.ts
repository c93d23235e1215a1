/** The JSON that commands print. A field once printed keeps its name. */
import type { Arrangement } from '@nokta/core/arrange';
import { placesOf } from '@nokta/core/arrange';
import { phrasesOf, type Form, type Phrase } from '@nokta/core/form';
import { quarters, symbol, type FingeredNote, type Stop } from '@nokta/core/hand';
import { INSTRUMENT } from '@nokta/core/instrument';
import { midi, pitchName } from '@nokta/core/music';

export function formJson(form: Form) {
  const phrase = ({ id, label, start, end, bars, closing, relation }: Phrase) => ({
    id,
    label,
    from: start,
    to: end,
    bars,
    closing,
    relation,
  });
  return { ...form, parts: form.parts.map((part) => ({ ...part, phrases: part.phrases.map(phrase) })) };
}

export function fingeringJson({ tune, fingering, tuning }: Arrangement) {
  const places = placesOf(tune);
  const { strings } = INSTRUMENT[fingering.instrument];
  const stopJson = (stop: Stop, note: FingeredNote) => ({
    pitch: pitchName(stop.pitch),
    midi: midi(stop.pitch),
    string: strings[stop.string]!.name,
    stringPitch: pitchName(tuning.pitches[stop.string]!),
    finger: stop.finger,
    sign: stop.sign,
    symbol: symbol(stop, fingering.instrument),
    position: note.position,
  });
  return {
    instrument: fingering.instrument,
    tuning: tuning.pitches.map(pitchName),
    notes: fingering.notes.map((note) => ({
      id: note.id,
      ...(places.get(note.id) ?? places.get(note.id.replace(/g\d+$/, ''))),
      onset: quarters(note.onset),
      duration: quarters(note.duration),
      grace: note.grace,
      pitches: note.pitches.map(pitchName),
      stops: note.stops.map((stop) => stopJson(stop, note)),
      shift: note.shift,
      extension: note.extension,
      block: note.block,
      hold: note.hold,
      why: note.why,
      alternatives: note.alternatives.map(({ stops, extra, reasons, text }) => ({
        stops: stops.map((stop) => stopJson(stop, note)),
        text,
        extra,
        reasons,
      })),
    })),
    totals: fingering.totals,
    problems: fingering.problems,
  };
}

/** One line for each phrase: what a teacher would read out. */
export function fingeringText({ form, fingering, bowing }: Arrangement): string {
  const { strings } = INSTRUMENT[fingering.instrument];
  return phrasesOf(form)
    .map((phrase) => {
      const inPhrase = new Set(phrase.notes);
      let last = -1;
      const fingers = fingering.notes
        .filter(({ id }) => inPhrase.has(id))
        .map(({ stops }) => {
          if (stops.length === 0) return '?';
          const shown = stops.map((stop) => symbol(stop, fingering.instrument)).join('+');
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
