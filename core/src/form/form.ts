/** The form of a tune: parts, phrases, what is the same, what is left to learn. */
import type { Tune } from '../music/index.ts';
import { findKey, homesOf, isHome, restingSound } from './closing.ts';
import { figuresOf } from './figures.ts';
import { layOut, type Layout } from './layout.ts';
import { findLicks } from './licks.ts';
import { materialsOf } from './materials.ts';
import { harmonyOf, motionsOf } from './motion.ts';
import { isTooLongToPart, plainForm } from './plain.ts';
import { planOf } from './plan.ts';
import { phraseSounds, soundsBetween } from './phraseSounds.ts';
import { barBeatAt, downbeatOf, leadsBackFrom, readForForm, type Reading, type Sound } from './reading.ts';
import { Relations } from './relations.ts';
import { sectionsOf } from './sections.ts';
import { traitsOf } from './traits.ts';
import { phrasesOf, type BarMaterial, type Form, type Part, type Phrase, type SharedBar } from './model.ts';

/** @example analyseForm(tune).parts.map((part) => part.label) // ['A'] */
export function analyseForm(tune: Tune): Form {
  const reading = readForForm(tune);
  if (isTooLongToPart(tune)) return plainForm(reading);
  return describe(reading, layOut(reading));
}

/**
 * The form of a version whose bars are as long as the tune's: its phrases lie where the tune's do.
 * @example formText(formLike(reel, layoutOf(reel))) // 'AA'
 */
export function formLike(version: Tune, layout: Layout): Form {
  return describe(readForForm(version), layout);
}

function describe(reading: Reading, layout: Layout): Form {
  const { tune } = reading;
  const ids = layout.map((_, index) => `p${index + 1}`);
  const compared = layout.map((laid, index) => phraseSounds(reading, laid, layout[index + 1] ?? null));
  const known = new Relations();
  const relations = compared.map((sounds, index) => known.relate(ids[index]!, sounds));
  const materials = materialsOf(reading, layout, ids, relations);
  const finding = findKey(reading);
  const key = finding?.disagrees ? finding.heard : tune.bars[0]!.key;
  const { sections, played } = sectionsOf(layout, reading, materials);
  const homeAt = homesOf(
    reading,
    sections.map(({ phrases }) => phrases[0]!.from),
    key,
  );
  const shares = sharedBars(materials);
  const harmony = harmonyOf(reading, homeAt);
  const parts = sections.map((section): Part => {
    const { label, firstBar, lastBar, times, like, beginning, length, from } = section;
    const phrases = section.phrases.map((laid, index): Phrase => {
      const number = section.firstNumber + index;
      const sounds = soundsBetween(reading, laid.from, laid.to);
      const id = ids[from + index]!;
      const runs = runsOf(reading, sounds);
      const resting = restingSound(reading, sounds);
      const relation = relations[from + index]!;
      const downbeat = downbeatOf(reading, laid.from, laid.to);
      return {
        id,
        from: laid.from,
        to: laid.to,
        label:
          laid.name ??
          (section.phrases.length === 1 && isWord(label) ? label : `${label}${isWord(label) ? ' ' : ''}${number}`),
        start: barBeatAt(reading, laid.from),
        end: barBeatAt(reading, sounds.at(-1)?.onset ?? laid.from),
        downbeat,
        bars: compared[from + index]!.bars,
        otherBars: compared[from + index]!.otherBars,
        closing: resting && isHome(resting, homeAt(resting.onset)) ? 'closed' : 'open',
        restsOn: resting?.note.id ?? null,
        relation,
        shares: (relation.kind === 'new' && shares.get(id)) || [],
        motions: runs.flatMap((run) => motionsOf(run, harmony)),
        figures: figuresOf(reading, runs[0] ?? [], downbeat),
        held: laid.held,
        named: laid.name !== null,
        notes: sounds.flatMap(({ ids: notes }) => notes),
      };
    });
    const bars = [reading.numbers[firstBar]!, reading.numbers[lastBar]!] as const;
    return { label, bars, times, like, beginning, length, phrases };
  });
  const phrases = phrasesOf({ parts });
  const form = {
    parts,
    played,
    bars: materials,
    licks: findLicks(reading, layout),
    learn: planOf(tune, phrases, materials),
    key,
  };
  return { ...form, traits: traitsOf(tune, form) };
}

/** Names of several letters stand apart from the number of a phrase. */
const isWord = (label: string) => label.length > 2;

/**
 * Sounds that are played in a row and belong together: nobody plays one ending after the other, and what leads back
 * to the part's beginning is that one's.
 */
function runsOf(reading: Reading, sounds: readonly Sound[]): readonly (readonly Sound[])[] {
  const runs: Sound[][] = [];
  let before: Sound | null = null;
  const leads = ({ barIndex, onset }: Sound) => onset >= leadsBackFrom(reading, barIndex);
  const ending = ({ barIndex }: Sound) => reading.endings[barIndex] ?? null;
  for (const sound of sounds) {
    const apart =
      before === null ||
      leads(sound) !== leads(before) ||
      (ending(sound) !== null && ending(before) !== null && ending(sound) !== ending(before));
    if (apart) runs.push([]);
    before = sound;
    runs.at(-1)!.push(sound);
  }
  return runs;
}

/** For each phrase its bars that stood in an earlier one. */
function sharedBars(bars: readonly BarMaterial[]): ReadonlyMap<string, readonly SharedBar[]> {
  const shared = new Map<string, SharedBar[]>();
  bars.forEach(({ number, material, phrase, counts }, index) => {
    const first = bars[material]!;
    if (!counts || material === index || first.phrase === phrase) return;
    const own = shared.get(phrase) ?? [];
    own.push({ bar: number, ofPhrase: first.phrase, ofBar: first.number });
    shared.set(phrase, own);
  });
  return shared;
}
