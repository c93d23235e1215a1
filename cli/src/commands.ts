/** The commands. Each returns what goes to standard output. */
import { writeFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { markedTune, placesOf, type Arrangement } from '@nokta/core/arrange';
import {
  gradeFits,
  groupKeys,
  keptFrom,
  keyChoices,
  ownGrade,
  playerOn,
  versionOffers,
  type GradeFit,
  type KeyChoice,
} from '@nokta/core/compare';
import { ENDINGS, endingOf, saveArrangement, type Ending } from '@nokta/core/files';
import { analyseForm } from '@nokta/core/form';
import { contractFor, difficultyOf, type Feature } from '@nokta/core/grade';
import { foundIn, functionOf, harmonyOf, plainName } from '@nokta/core/harmony';
import { lossesIn, type Problem } from '@nokta/core/formats';
import { instrumentOf, parseTuning, retuningSteps, tensionReport, tuningText } from '@nokta/core/instrument';
import { talkThrough } from '@nokta/core/talk';
import { barNumbers, barStarts, beatLength, keyName, pitchName, type Tune } from '@nokta/core/music';
import {
  breachText,
  chordText,
  contractTexts,
  featureText,
  LINE_WORDS,
  gradeChangeText,
  lineNoteText,
  keyReasons,
  lossText,
  memberText,
  octaveText,
  problemText,
  retuningText,
  slowerText,
  stringCautions,
  whyText,
} from '@nokta/core/words';
import { askedFor } from './asked.ts';
import { readTune } from './input.ts';
import { bowJson, bowText, fingeringJson, fingeringText, formJson, formLines } from './json.ts';
import { UsageError, type CliOptions } from './options.ts';
import { finished } from '@nokta/core/stage';

export type Command = (options: CliOptions) => Promise<string>;

const json = (value: unknown) => JSON.stringify(value, null, 2);

export const convert: Command = async (options) => {
  const out = options.out;
  const ending = out === null ? null : endingOf(out);
  if (out === null || ending === null)
    throw new UsageError(`Say where to write with -o, a name ending in ${ENDINGS.map((one) => `.${one}`).join(', ')}.`);
  const { tune, notices, tags, versions, arrangements, decisions, arrangement } = await askedFor(options);
  // What a Nokta file decided goes on into the next one; else what the options say.
  const decided = arrangements.length > 0 ? arrangements : [decisions];
  const contents = { tune, arrangements: decided, tags, versions };
  await writeFile(out, saveArrangement(arrangement, ending, contents, { tab: options.tab }));
  const lost = [...notices, ...notWritten(markedTune(arrangement), ending)];
  const summary = {
    title: tune.title,
    bars: tune.bars.length,
    key: keyName(arrangement.tune.bars[0]!.key),
    out: basename(out),
    notCarriedOver: lost,
  };
  if (options.json) return json(summary);
  for (const { message } of lost.slice(notices.length)) console.error(`${out}: ${message}`);
  const told =
    lost.length === 0
      ? 'Everything was carried over.'
      : `${lost.length} ${lost.length === 1 ? 'notice' : 'notices'}, see above.`;
  const octaves = options.transposed || options.asDecided ? 0 : arrangement.decisions.key.transpose / 12;
  const moved = octaves === 0 ? '' : `, ${octaveText(octaves)} for the ${arrangement.instrument.name.toLowerCase()}`;
  return `${tune.title}: ${tune.bars.length} bars in ${summary.key}${moved}, written to ${out}. ${told}`;
};

/** What a format has no place for, found by reading back what was written. */
function notWritten(tune: Tune, ending: Ending): readonly Problem[] {
  if (ending === 'nokta.json') return [];
  const lost = lossesIn(tune, ending === 'mxl' ? 'musicxml' : ending).map((loss) => ({
    severity: 'notice' as const,
    message: `${lossText(loss)}.`,
  }));
  if (ending !== 'mid') return lost;
  return [{ severity: 'notice', message: 'MIDI holds sounds only; repeats are played out.' }, ...lost];
}

export const form: Command = async (options) => {
  const { tune } = await readTune(options);
  const found = analyseForm(tune);
  return options.json ? json(formJson(tune, found)) : formLines(tune, found);
};

export const finger: Command = async (options) => {
  const { arrangement } = await askedFor(options);
  for (const line of problemLines(arrangement)) console.error(`${options.file}: ${line}`);
  return options.json ? json(fingeringJson(arrangement)) : fingeringText(arrangement);
};

export const bow: Command = async (options) => {
  const { arrangement } = await askedFor(options);
  return options.json ? json(bowJson(arrangement)) : bowText(arrangement);
};

/** Notes with the same trouble are told together. */
function problemLines({ tune, fingering, instrument, tuning }: Arrangement): readonly string[] {
  const places = placesOf(tune);
  const bars = new Map<string, number[]>();
  for (const problem of fingering.problems) {
    const message = problemText(problem, instrument, tuning);
    bars.set(message, [...(bars.get(message) ?? []), places.get(problem.noteId)?.bar ?? 0]);
  }
  return [...bars].map(
    ([message, list]) =>
      `${list.length} ${list.length === 1 ? 'note' : 'notes'}, bars ${[...new Set(list)].join(' ')}: ${message}`,
  );
}

export const talk: Command = async (options) => {
  const { arrangement } = await askedFor(options);
  const said = talkThrough(arrangement, options.talk);
  return options.json
    ? json(said.map(({ phrase, text }) => ({ phrase, text })))
    : said.map(({ label, text }) => `${label}: ${text}`).join('\n\n');
};

/** Every key in which the tune can be played; with --for, those that all players have in common. */
export const keys: Command = async (options) => {
  const { tune, decisions } = await readTune(options);
  if (options.players.length > 0) return keysOfGroup(tune, options);
  const choices = finished(keyChoices(tune, decisions));
  if (options.json) return json(choices.map(keyJson));
  return choices.map((choice) => keyLine(choice, keyReasons(choice))).join('\n');
};

function keysOfGroup(tune: Tune, { players, decisions, json: asJson }: CliOptions): string {
  const members = players.map(({ instrument, grade }) => ({ decisions: playerOn(decisions, instrument), grade }));
  const common = finished(groupKeys(tune, members));
  const names = players.map(({ instrument, grade }) => (grade === null ? instrument : `${instrument}:${grade}`));
  if (asJson)
    return json(
      common.map(({ key, places, simpler, dearer }) => ({
        key: keyName(key),
        simpler,
        dearer: Math.round(1000 * dearer) / 1000,
        octaves: Object.fromEntries(
          places.map(({ choice: { transpose, octave } }, player) => [names[player]!, { transpose, octave }]),
        ),
        players: places.map(({ choice, beyond, simpler: version }, player) => ({
          player: names[player]!,
          simpler: version,
          beyond,
          ...keyJson(choice),
        })),
      })),
    );
  if (common.length === 0) return 'There is no key in which all of them can play every note.';
  return common
    .map(({ key, places }) =>
      [
        keyName(key),
        ...places.map(
          (place, player) =>
            `  ${names[player]!}: ${keyLine(place.choice, [memberText(place, players[player]!.grade), ...keyReasons(place.choice)])}`,
        ),
      ].join('\n'),
    )
    .join('\n');
}

function keyJson(keyChoice: KeyChoice) {
  const { key, transpose, octave, fits, cost, effort, outOfRange, ringing, ...choice } = keyChoice;
  return {
    key: keyName(key),
    transpose,
    octave,
    fits,
    cost,
    effort,
    ringing: Math.round(1000 * ringing) / 1000,
    ...choice,
    outOfRange: outOfRange.map(({ id, bar, beat, pitch }) => ({ id, bar, beat, pitch: pitchName(pitch) })),
    words: keyReasons(keyChoice),
  };
}

const keyLine = ({ key, octave, effort }: KeyChoice, reasons: readonly string[]) =>
  `${keyName(key).padEnd(9)} ${octaveText(octave)}, effort ${effort.toFixed(1)}: ${reasons.join('; ')}`;

export const tension: Command = (options) => {
  const { tuning: id } = options.decisions.key;
  const instrument = instrumentOf(options.decisions.key);
  const tuning = parseTuning(instrument, id);
  if ('error' in tuning) throw new UsageError(tuning.error);
  const found = tensionReport(instrument, tuning.pitches);
  // Each caution stands for itself: a string that goes slack beside one that is loaded is told too.
  const cautions = stringCautions(found.strings);
  const steps = retuningSteps(found.strings).map(retuningText);
  if (options.json) return Promise.resolve(json({ ...found, caution: cautions.join(' '), cautions, steps }));
  const percent = (change: number) => `${change >= 0 ? '+' : '−'}${Math.abs(change * 100).toFixed(1)} %`;
  const lines = found.strings.map(
    ({ name, from, to, beforeN, afterN, change }) =>
      `  ${name}  ${from} → ${to}  ${beforeN} → ${afterN} N  ${percent(change)}`,
  );
  const { total } = found;
  return Promise.resolve(
    [
      `${tuningText(tuning.pitches)}`,
      ...lines,
      `  total  ${total.beforeN} → ${total.afterN} N  ${percent(total.change)}`,
      ...cautions,
      ...steps,
      ...(found.lowerTuning ? [`The same, tuned down instead: ${found.lowerTuning.join(' ')}`] : []),
    ].join('\n'),
  );
};

export const contract: Command = (options) => {
  const instrument = instrumentOf(options.decisions.key);
  if (options.grade === null) throw new UsageError('Say which grade with --grade 1 to 6.');
  const { name, limits } = contractFor(instrument.hand, options.grade);
  const words = contractTexts(limits);
  if (options.json)
    return Promise.resolve(json({ instrument: instrument.id, grade: options.grade, name, limits, words }));
  return Promise.resolve(
    [`Grade ${options.grade}, ${instrument.name.toLowerCase()}: ${name}`, ...words.map((one) => `  ${one}`)].join('\n'),
  );
};

/** The chords under a tune, each from where it begins. */
export const harmony: Command = async (options) => {
  const { inKey } = (await askedFor(options)).arrangement;
  const chords = options.found ? foundIn(inKey) : harmonyOf(inKey);
  const starts = barStarts(inKey.bars);
  const numbers = barNumbers(inKey.bars);
  const told = chords.flatMap((chord, index) => {
    const before = chords[index - 1];
    if (chord.root === null || (before?.name === chord.name && chord.found)) return [];
    const at = Math.max(
      0,
      starts.findLastIndex((start) => start <= chord.from),
    );
    const bar = inKey.bars[Math.min(at, inKey.bars.length - 1)]!;
    const numeral = functionOf(chord, bar.key);
    return [
      {
        bar: numbers[at]!,
        beat: 1 + (bar.offset + chord.from - starts[at]!) / beatLength(bar.metre),
        symbol: chord.name,
        root: plainName(chord.root),
        kind: chord.kind,
        function: numeral,
        from: chord.found ? ('found' as const) : ('written' as const),
        other: chord.other,
        words: chordText(chord, numeral),
      },
    ];
  });
  if (options.json) return json(told);
  const width = Math.max(...told.map(({ symbol }) => symbol.length), 1);
  return told
    .map(({ bar, beat, symbol, words }) => `bar ${bar}, beat ${beat}: ${symbol.padEnd(width)}  ${words}`)
    .join('\n');
};

/** A place as people count it, with its note. */
function placer({ tune }: Arrangement): (note: string | null) => { note: string | null; bar: number; beat: number } {
  const places = placesOf(tune);
  return (note) => ({ note, ...(places.get(note ?? '') ?? { bar: 1, beat: 1 }) });
}

function difficultyJson(arrangement: Arrangement) {
  const place = placer(arrangement);
  const { total, breakdown, phrases } = difficultyOf(arrangement);
  return {
    total,
    breakdown: Object.fromEntries(
      Object.entries(breakdown).map(([feature, { value, share, where }]) => [
        feature,
        { value, share, where: place(where) },
      ]),
    ),
    phrases: phrases.map(({ id, label, total: own, hardest, easyTempo }) => ({
      id,
      label,
      total: own,
      easyTempo,
      hardest: place(hardest),
    })),
  };
}

export const grade: Command = async (options) => {
  if (options.grade === null) throw new UsageError('Say which grade with --grade 1 to 6.');
  const { tune, decisions, arrangement } = await askedFor(options);
  const { graded, breaches, instrument } = arrangement;
  const place = placer(arrangement);
  const { name, limits } = contractFor(instrument.hand, options.grade);
  if (options.out !== null) {
    const ending = endingOf(options.out);
    if (ending === null)
      throw new UsageError(`-o ${options.out}: the name must end in ${ENDINGS.map((one) => `.${one}`).join(', ')}.`);
    const contents = { tune, arrangements: [decisions], tags: [], versions: [] };
    await writeFile(options.out, saveArrangement(arrangement, ending, contents, { tab: options.tab }));
  }
  const { total, breakdown } = difficultyJson(arrangement);
  const { line } = arrangement;
  const { slower } = line ? { slower: null } : finished(versionOffers(arrangement, options.grade));
  const result = {
    grade: options.grade,
    contract: { name, limits, words: contractTexts(limits) },
    difficulty: { total, breakdown },
    breaches: breaches.map(({ rule, note }) => ({ rule, ...place(note), message: breachText(rule) })),
    changes: (graded?.changes ?? []).map(({ kind, direction, bar, beat, notes, ...change }) => ({
      kind,
      direction,
      bar,
      beat,
      notes,
      reason: `${gradeChangeText({ kind, ...change })} ${direction === 'easier' ? whyText(change) : ''}`.trim(),
    })),
    // A line that goes with the tune is not like it.
    likeness: line ? null : (graded?.likeness ?? 1),
    line: line && {
      role: line.role,
      notes: line.notes.map((note) => ({
        ...place(note.id),
        note: note.id,
        pitches: note.pitches.map(pitchName),
        chord: note.chord,
        tone: note.tone,
        reason: lineNoteText(note),
      })),
    },
    // Where speed is what costs notes: a tempo in quarters a minute that keeps more.
    slower: slower && { tempo: slower.tempo, likeness: slower.likeness },
    key: keyName(arrangement.tune.bars[0]!.key),
    transpose: decisions.key.transpose + (graded?.transpose ?? 0),
  };
  if (options.json) return json(result);
  return [
    `${tune.title}, grade ${options.grade} (${name}) for the ${instrument.name.toLowerCase()}, in ${result.key}`,
    result.likeness === null
      ? `  ${LINE_WORDS[line!.role].name}, to go with the tune; difficulty ${total.toFixed(1)} of 10`
      : `  ${Math.round(100 * result.likeness)} % like the tune; difficulty ${total.toFixed(1)} of 10`,
    ...(slower
      ? [`  ${slowerText(slower, arrangement.tune.bars[0]!.metre)} like the tune (--tempo ${slower.tempo})`]
      : []),
    ...(result.breaches.length === 0
      ? ['  It fits the contract.']
      : result.breaches.map(({ bar, beat, message }) => `  Not met, bar ${bar}, beat ${beat}: ${message}`)),
    ...result.changes.map(({ bar, beat, reason }) => `  Bar ${bar}, beat ${beat}: ${reason}`),
  ].join('\n');
};

export const difficulty: Command = async (options) => {
  const { tune, arrangement } = await askedFor(options);
  const fits = fitsOf(arrangement);
  const result = {
    ...difficultyJson(arrangement),
    grade: ownGrade(fits),
    keptFrom: keptFrom(fits).map((rule) => breachText(rule)),
  };
  if (options.json) return json(result);
  const features = Object.entries(result.breakdown)
    .filter(([, { share }]) => share > 0.01)
    .sort(([, a], [, b]) => b.share - a.share);
  return [
    `${tune.title}: difficulty ${result.total.toFixed(1)} of 10, ${result.grade === null ? 'easier than no grade' : `grade ${result.grade}`}`,
    ...features.map(
      ([feature, { value, share }]) => `  ${featureText(feature as Feature, value)} ${Math.round(100 * share)} %`,
    ),
    ...result.phrases.map(
      ({ label, total, easyTempo, hardest }) =>
        `  ${label}: ${total.toFixed(1)}; hardest in bar ${hardest.bar}; as easy as the easiest at ${easyTempo}`,
    ),
    ...result.keptFrom.map((reason) => `  Kept from an easier grade: ${reason}`),
  ].join('\n');
};

function fitsOf(arrangement: Arrangement): readonly GradeFit[] {
  return finished(gradeFits(arrangement));
}
