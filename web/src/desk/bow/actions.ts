/** What is decided about the bow: school, patterns, strokes turned, slurred, cut, lifted and stopped, regions, repairs. */
import {
  BY_SYLLABLE,
  PATTERN_IDS,
  patternOf,
  recordedPattern,
  spanOf,
  suggestedSigns,
  type BowDecisions,
  type BowRepair,
  type BowSchool,
  type OwnPattern,
  type Region,
  type Stroke,
} from '@nokta/core/bow';
import type { Phrase } from '@nokta/core/form';
import { STROKE_SIGNS, strokeSignsOf, type BowMark, type Note, type StrokeSign } from '@nokta/core/music';
import { bowName, bowPatternText, repairText, strokeSignText } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import { useDesk } from '../store.ts';

/** Where a pattern is laid. */
export const PATTERN_SCOPES = ['phrase', 'same', 'selection', 'tune'] as const;
export type PatternScope = (typeof PATTERN_SCOPES)[number];

export function useBowActions() {
  const desk = useDesk();
  const decided = (): BowDecisions | undefined => desk.record?.decisions.bow;

  /** The stroke that a note is on, the first time round. */
  function strokeOf(note: string): Stroke | null {
    return desk.arrangement?.bowing.strokes.find(({ notes, time }) => time === 1 && notes.includes(note)) ?? null;
  }

  const decide = (bow: Partial<BowDecisions>, label: string): Promise<void> => desk.decide({ bow }, label);
  const setSchool = (school: BowSchool) => decide({ school }, 'change the school of the bow');
  const setStart = (start: BowMark | null) => decide({ start }, 'change the first stroke');

  /** @param school null leaves a part to the tune's school */
  function setPartSchool(label: string, school: BowSchool | null): Promise<void> {
    const { [label]: _, ...others } = decided()?.schools ?? {};
    return decide({ schools: school ? { ...others, [label]: school } : others }, `change the school of part ${label}`);
  }

  /** Turns the stroke that a note is on; once more takes back what was decided. */
  function turn(note: string): Promise<void> {
    const [now, stroke] = [decided(), strokeOf(note)];
    if (!now || !stroke) return Promise.resolve();
    const first = stroke.notes[0]!;
    const { [first]: known, ...rest } = now.turns;
    const direction: BowMark = stroke.direction === 'down' ? 'up' : 'down';
    desk.spoken = known ? 'As it comes again' : `Now ${bowName(direction)}`;
    const turns = known ? rest : { ...rest, [first]: direction };
    return decide({ turns }, known ? 'turn the bow back' : 'turn the bow');
  }

  /** Slurs a note to the one before it, or cuts it off; says so where it cannot be slurred. */
  async function toggleSlur(note: string): Promise<void> {
    const [now, stroke] = [decided(), strokeOf(note)];
    if (!now || !stroke) return;
    const first = desk.notes.find(({ ids }) => ids.includes(note))?.ids[0] ?? note;
    const isSlurred = stroke.notes[0] !== first;
    const slurs = { ...now.slurs, [first]: isSlurred ? ('cut' as const) : ('joined' as const) };
    // A stroke cannot both go on and be turned, lifted or stopped: the last word holds.
    const without = <Value>({ [first]: _, ...others }: Readonly<Record<string, Value>>) => others;
    const change = isSlurred ? { slurs } : { slurs, turns: without(now.turns), joints: without(now.joints) };
    desk.spoken = isSlurred ? 'A stroke begins here' : 'Slurred to the note before';
    await decide(change, isSlurred ? 'cut the slur' : 'slur to the note before');
    const against = desk.arrangement?.bowing.exceptions.find((one) => one.note === first && one.kind === 'own-rest');
    if (against && !isSlurred) desk.refused = 'A rest lies between: no bow can slur over it.';
  }

  /** Lifts or stops the bow before the stroke that a note is on; once more takes it back. */
  async function toggleJoint(note: string, how: 'lift' | 'stop'): Promise<void> {
    const [now, stroke] = [decided(), strokeOf(note)];
    if (!now || !stroke) return;
    const first = stroke.notes[0]!;
    const { [first]: known, ...rest } = now.joints;
    const on = known !== how;
    desk.spoken = on
      ? how === 'lift'
        ? 'Lifted before this stroke'
        : 'Stopped before this stroke'
      : 'As it comes again';
    await decide({ joints: on ? { ...rest, [first]: how } : rest }, how === 'lift' ? 'lift the bow' : 'stop the bow');
    const flag = desk.arrangement?.bowing.flags.find((one) => one.kind === 'no-time' && one.note === first);
    if (on && flag) desk.refused = 'There is no time to lift here: it wants a quarter of a second.';
  }

  /** The phrases that a pattern is laid over, or the notes that are chosen. */
  function stretches(scope: PatternScope): readonly { readonly from: string; readonly to: string }[] {
    const own = desk.selectedPhrase;
    if (scope === 'selection') {
      const chosen = desk.range.flatMap(({ ids }) => ids);
      return chosen.length > 0 ? [{ from: chosen[0]!, to: chosen.at(-1)! }] : [];
    }
    if (!own || scope === 'tune') return [];
    const phrases = scope === 'same' ? sameAs(desk.phrases, own) : [own];
    return phrases.flatMap(({ notes }) => (notes.length > 0 ? [{ from: notes[0]!, to: notes.at(-1)! }] : []));
  }

  /** What laying a pattern changes: where one lay before over the very same stretch, that one is taken away. */
  function patternChange(pattern: string | null, scope: PatternScope): Partial<BowDecisions> {
    const now = decided();
    if (!now) return {};
    if (scope === 'tune') return { pattern };
    const over = stretches(scope);
    const kept = now.laid.filter(({ from, to }) => !over.some((one) => one.from === from && one.to === to));
    // The tune's own pattern needs nobody to lay it.
    const laid =
      pattern === now.pattern && kept.length < now.laid.length ? [] : over.map((one) => ({ ...one, pattern }));
    return { laid: [...kept, ...laid] };
  }

  function layPattern(pattern: string | null, scope: PatternScope): Promise<void> {
    const name = pattern === null ? 'As the tune has it' : bowPatternText(pattern, decided()?.own).name;
    desk.spoken = name;
    return decide(patternChange(pattern, scope), `lay a pattern: ${name}`);
  }

  /** The pattern of a phrase: its own, or the tune's. */
  function patternAt(phrase: Phrase | null): string | null {
    const now = decided();
    const first = phrase?.notes[0];
    return now?.laid.findLast(({ from }) => from === first)?.pattern ?? now?.pattern ?? null;
  }

  /** The next pattern on the phrase of the selected note. */
  function nextPattern(): Promise<void> {
    const own = decided()?.own ?? [];
    const all = [null, ...PATTERN_IDS.filter((id) => id !== BY_SYLLABLE || hasWords()), ...own.map(({ id }) => id)];
    const at = all.indexOf(patternAt(desk.selectedPhrase));
    return layPattern(all[(at + 1) % all.length]!, 'phrase');
  }

  const hasWords = (): boolean =>
    desk.arrangement?.tune.bars.some(({ events }) => events.some((event) => event.kind === 'note' && event.words)) ??
    false;

  /** The strokes of the chosen notes as a pattern with a name. */
  function recordPattern(name: string): Promise<void> {
    const now = decided();
    const chosen = new Set(desk.range.flatMap(({ ids }) => ids));
    const strokes = (desk.arrangement?.bowing.strokes ?? []).filter(
      ({ notes, time }) => time === 1 && chosen.has(notes[0]!),
    );
    const recorded = desk.arrangement && recordedPattern(desk.arrangement.tune, strokes);
    if (!now) return Promise.resolve();
    if (!recorded) {
      desk.refused = 'These strokes are too many for a pattern: choose a bar or two.';
      return Promise.resolve();
    }
    const number = now.own.reduce((most, { id }) => Math.max(most, Number(id.split('-')[1])), 0) + 1;
    const pattern: OwnPattern = { id: `own-${number}`, name, ...recorded };
    desk.spoken = `${name}: groups of ${recorded.groups.join(', ')}`;
    return decide({ own: [...now.own, pattern] }, `keep the pattern ${name}`);
  }

  function dropPattern(id: string): Promise<void> {
    const now = decided();
    if (!now) return Promise.resolve();
    return decide(
      {
        own: now.own.filter((one) => one.id !== id),
        laid: now.laid.filter(({ pattern }) => pattern !== id),
        pattern: now.pattern === id ? null : now.pattern,
      },
      'give up a pattern',
    );
  }

  /** @param region null takes the mark away */
  function setRegion(note: string, region: Region | null): Promise<void> {
    const { [note]: _, ...others } = decided()?.regions ?? {};
    return decide({ regions: region ? { ...others, [note]: region } : others }, 'mark a part of the bow');
  }

  /** Marks for each phrase the part of the hair that the plan uses, where it changes. */
  function markRegions(): Promise<void> {
    const found = desk.travel?.regions;
    if (!found) return Promise.resolve();
    let before: Region | null = null;
    const regions: Record<string, Region> = {};
    for (const { id, notes } of desk.phrases) {
      const region = found.get(id);
      if (region && region !== before && notes[0]) regions[notes[0]] = region;
      before = region ?? before;
    }
    return decide({ regions }, 'mark the parts of the bow');
  }

  const noteOf = (id: string): Note | null => {
    const bars = desk.arrangement?.tune.bars ?? [];
    for (const { events } of bars)
      for (const event of events) if (event.id === id && event.kind === 'note') return event;
    return null;
  };

  /** Accents and length signs of a note, a pattern's accent with them. */
  function signsAt(id: string): readonly StrokeSign[] {
    // What was decided just now may not be worked out yet: a second key must not lose the first.
    const decidedHere = desk.record?.decisions.signs.strokeSigns[id];
    if (decidedHere) return decidedHere;
    const note = noteOf(id);
    const own = note ? strokeSignsOf(note) : [];
    return desk.arrangement?.bowing.accents.has(id) && !own.includes('accent') ? ['accent', ...own] : own;
  }

  /** Sets a sign on a note, or takes it away. */
  function toggleSign(id: string, sign: StrokeSign): Promise<void> {
    const signs = desk.record?.decisions.signs;
    if (!signs || !noteOf(id)) return Promise.resolve();
    const now = signsAt(id);
    const on = !now.includes(sign);
    const next = STROKE_SIGNS.filter((one) => (one === sign ? on : now.includes(one)));
    desk.spoken = `${strokeSignText(sign)}${on ? '' : ', taken away'}`;
    return desk.decide(
      { signs: { strokeSigns: { ...signs.strokeSigns, [id]: next } } },
      on ? 'set a sign' : 'take a sign away',
    );
  }

  /** Signs that the bowing calls for; what was set by hand stays. */
  async function suggestSigns(): Promise<void> {
    const signs = desk.record?.decisions.signs;
    if (!signs || !desk.arrangement) return;
    const found = Object.entries(suggestedSigns(desk.arrangement)).filter(([id]) => !signs.strokeSigns[id]);
    if (found.length === 0) {
      desk.spoken = 'No sign is wanted that is not there.';
      return;
    }
    desk.spoken = found.length === 1 ? 'One note has a new sign' : `${found.length} notes have new signs`;
    await desk.decide(
      { signs: { strokeSigns: { ...signs.strokeSigns, ...Object.fromEntries(found) } } },
      'set the signs that the bow calls for',
    );
  }

  function takeRepair(repair: BowRepair): Promise<void> {
    const text = repairText(repair, decided()?.own);
    desk.spoken = text;
    return decide(repair.change, text);
  }

  /** Works both hands out to and fro; says what came of it, or null where something else was decided meanwhile. */
  async function settleHands(): Promise<string | null> {
    const found = await desk.ask('settleHands');
    if (found === STALE) return null;
    if (!found.change) return 'Both hands are settled: nothing to change.';
    await decide(found.change, 'settle both hands');
    return `Settled: ${(found.before - found.after).toFixed(1)} easier for both hands.`;
  }

  /** Everything that was decided here is given up: strokes and slurs are the tune's and the school's again. */
  const forget = () =>
    desk.decide(
      {
        bow: { turns: {}, slurs: {}, joints: {}, regions: {}, lengths: [], laid: [], pattern: null, start: null },
        signs: { strokeSigns: {} },
      },
      'forget what was set for the bow',
    );

  return {
    decided,
    decide,
    strokeOf,
    setSchool,
    setPartSchool,
    setStart,
    turn,
    toggleSlur,
    toggleJoint,
    patternChange,
    layPattern,
    patternAt,
    nextPattern,
    recordPattern,
    dropPattern,
    hasWords,
    setRegion,
    markRegions,
    signsAt,
    toggleSign,
    suggestSigns,
    settleHands,
    takeRepair,
    forget,
  };
}

/** Phrases that are the same as one, itself among them. */
export function sameAs(phrases: readonly Phrase[], one: Phrase): readonly Phrase[] {
  const rootOf = ({ id, relation }: Phrase) => (relation.kind === 'same' ? relation.of : id);
  return phrases.filter((phrase) => rootOf(phrase) === rootOf(one));
}

/** Short values of a pattern, as a row of groups: what it looks like. */
export function groupsOf(id: string, own: readonly OwnPattern[]): readonly number[] {
  const pattern = patternOf(id, own);
  if (!pattern) return [];
  const times = Math.max(1, Math.floor(8 / spanOf(pattern)));
  return Array.from({ length: times }, () => pattern.groups).flat();
}
