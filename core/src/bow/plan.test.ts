/** The plan against a search that tries everything, and what another choice costs against planning anew under it. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseForm, phrasesOf } from '../form/index.ts';
import { barLength, beatLength, isCompound, midi, seconds, type Tune } from '../music/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { tuneOf } from '../test/testing.ts';
import { groupSounds, onDownbeat, playedSounds, type StrokeGroup } from './grouping.ts';
import { BOW_PRICES, SCHOOLS, bowSlice, bowTuneWithWays, type BowDecisions } from './index.ts';

const TEMPO = 96;

function planned(tune: Tune, decided: Partial<BowDecisions>) {
  return bowTuneWithWays(tune, analyseForm(tune), { ...bowSlice.first, ...decided }, TEMPO).planner;
}

/** The cheapest way to bow separate strokes down on the beat, by trying every way: written from section 5, not from the program. */
function cheapestOfAll(tune: Tune, strokes: readonly StrokeGroup[], start: 'down' | 'up'): number {
  const starts = new Set(phrasesOf(analyseForm(tune)).map(({ notes }) => notes[0]));
  const length = (one: StrokeGroup) => barLength(tune.bars[one.barIndex]!.metre);
  const beat = (one: StrokeGroup) => beatLength(tune.bars[one.barIndex]!.metre);
  const downs = strokes.filter((one) => onDownbeat(tune, one)).map(({ place }) => place);
  const early = ({ place }: StrokeGroup, self: boolean) => {
    if (self) return 0;
    const next = downs.find((down) => down > place);
    return next === undefined ? 0 : 0.5 * Math.max(0, next - place - 1);
  };
  const walk = (at: number, down: boolean, merged: boolean): number => {
    const stroke = strokes[at];
    if (!stroke) return 0;
    const before = strokes[at - 1]!;
    const isDown = onDownbeat(tune, stroke);
    const come = (nowDown: boolean) => (isDown && !nowDown ? 100 : 0) + walk(at + 1, nowDown, false);
    let best = come(!down);
    const reached = before.onset + before.duration === stroke.onset;
    const [one, two] = [before.sounds.at(-1)!, stroke.sounds[0]!];
    const same =
      one.note.heads.length === two.note.heads.length &&
      one.note.heads.every(({ pitch }, head) => midi(pitch) === midi(two.note.heads[head]!.pitch));
    const dotted = (note: typeof one) =>
      (note.note.decorations ?? []).some((sign) => sign === 'staccato' || sign === 'tenuto');
    const free = two.note.bow === undefined;
    if (
      !merged &&
      reached &&
      !two.joint &&
      free &&
      before.place === stroke.place &&
      before.at >= beat(before) &&
      before.sounds.length === 1 &&
      stroke.sounds.length === 1 &&
      !starts.has(stroke.notes[0]!) &&
      (!same || (dotted(one) && dotted(two)))
    ) {
      const price = before.at % beat(before) === 0 ? 1 : 1.5;
      const late = 0.2 * (1 - before.at / length(before));
      best = Math.min(best, price + late + early(before, onDownbeat(tune, before)) + walk(at + 1, down, true));
    }
    const { metre } = tune.bars[before.barIndex]!;
    const ratio = one.duration / two.duration;
    const dots = ratio === 3 || (ratio === 2 && (isCompound(metre) || metre.beats === 3));
    if (dots && reached && one.place === two.place && stroke.sounds.length === 1 && !isDown) {
      best = Math.min(best, 3 + 0.2 * (1 - stroke.at / length(before)) + early(stroke, false) + come(down));
    }
    const rest = seconds(stroke.onset - before.onset - before.duration, TEMPO);
    const lends = starts.has(stroke.notes[0]!) && seconds(one.duration, TEMPO) >= 0.5;
    if (rest >= 0.25 || lends) {
      const share = isDown ? 1 : stroke.at / length(stroke);
      best = Math.min(best, 5 + 0.2 * (1 - share) + early(stroke, isDown) + come(down));
    }
    return best;
  };
  const [first] = strokes;
  if (!first) return 0;
  return (onDownbeat(tune, first) && start === 'up' ? 100 : 0) + walk(1, start === 'down', false);
}

/** A few bars, small enough to try everything. */
const small = arbitraryTune({ words: false }).map((tune): Tune => ({
  ...tune,
  bars: tune.bars.slice(0, 3).map((bar) => ({
    ...bar,
    events: bar.events.map(
      (event) => (event.kind === 'note' && event.bow ? { ...event, bow: undefined } : event) as typeof event,
    ),
  })),
  slurs: [],
  parting: null,
}));

describe('the plan', () => {
  it('costs what the cheapest of all ways costs', () => {
    fc.assert(
      fc.property(small, fc.constantFrom('down' as const, 'up' as const), (tune, start) => {
        const sounds = playedSounds(tune);
        fc.pre(sounds.length > 0 && sounds.length < 26);
        const decided = { ...bowSlice.first, school: 'down-on-the-beat' as const, start };
        const starts = new Set(phrasesOf(analyseForm(tune)).flatMap(({ notes }) => notes.slice(0, 1)));
        const { strokes } = groupSounds(tune, sounds, decided, starts);
        expect(planned(tune, decided).plan.cost).toBeCloseTo(cheapestOfAll(tune, strokes, start), 6);
      }),
      { numRuns: 300 },
    );
  });

  it('orders its prices as players do: a slur, a stop, a lift, and any before a beat that comes up', () => {
    const { slur, slurOffBeat, stop, lift, notDown, later, early } = BOW_PRICES;
    expect(slur + later).toBeLessThan(slurOffBeat);
    expect(slurOffBeat + later).toBeLessThan(stop);
    expect(stop + later).toBeLessThan(lift);
    expect(lift + later + early).toBeLessThan(notDown);
  });
});

describe('another choice', () => {
  const decide = (change: string, note: string): Partial<BowDecisions> => {
    if (change === 'slur') return { slurs: { [note]: 'joined' } };
    if (change === 'cut') return { slurs: { [note]: 'cut' } };
    return { turns: { [note]: change as 'down' | 'up' } };
  };

  it('costs exactly what planning anew under it costs more', () => {
    fc.assert(
      fc.property(arbitraryTune(), fc.constantFrom(...SCHOOLS), fc.nat(), (tune, school, pick) => {
        const first = planned(tune, { school });
        const starts = first.plan.strokes.flatMap(({ notes }) => notes);
        fc.pre(starts.length > 0);
        const note = starts[pick % starts.length]!;
        for (const { at, change, extra } of first.alternatives(note)) {
          const again = planned(tune, { school, ...decide(change, at) });
          expect(again.plan.cost - first.plan.cost).toBeCloseTo(extra, 6);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('begins as planned anew where a slur from the pickup is cut on the bar', () => {
    const tune = tuneOf('F | G6 A3 |', { metre: '9/8' });
    const slurred = { ...tune, slurs: [{ from: 'n1', to: 'n3' }] };
    const first = planned(slurred, {});
    const cut = first.alternatives('n2').find(({ change }) => change === 'cut')!;
    const again = planned(slurred, { slurs: { n2: 'cut' } });
    expect(again.plan.strokes.map(({ direction }) => direction)).toEqual(['up', 'down']);
    expect(again.plan.cost - first.plan.cost).toBeCloseTo(cut.extra, 6);
  });

  it('says what there would be more of', () => {
    const tune = tuneOf('A2 B2 c2 d2 | e8 |');
    const found = planned(tune, { school: 'down-on-the-beat' }).alternatives('n4');
    // Slurred to the note before, three strokes are left: the pair before it is slurred as well, or the beat comes up.
    expect(found.map(({ change }) => change)).toEqual(['down', 'slur']);
    const slur = found.find(({ change }) => change === 'slur')!;
    expect(slur.differences.notDown).toBe(1);
    expect(slur.extra).toBeGreaterThanOrEqual(BOW_PRICES.notDown);
  });
});
