/** How often the analysis agrees with what was stated by hand: boundaries to the note, relations, licks. */
import { describe, expect, it } from 'vitest';
import { barLength, placedNotes, type Ticks } from '../music/index.ts';
import { TRUTHS, type Truth } from '../test/formTruth.ts';
import { analyseForm, phrasesOf, type Form } from './index.ts';

interface Count {
  hits: number;
  found: number;
  stated: number;
}

const none = (): Count => ({ hits: 0, found: 0, stated: 0 });
const precision = ({ hits, found }: Count) => (found === 0 ? 1 : hits / found);
const recall = ({ hits, stated }: Count) => (stated === 0 ? 1 : hits / stated);
const percent = (value: number) => `${(100 * value).toFixed(1)} %`;

/** Boundaries inside the tune; its beginning is given. */
function boundaries(truth: Truth, form: Form): Count {
  const onsets = placedNotes(truth.tune).map(({ onset }) => onset);
  const firstNote = (at: Ticks) => onsets.find((onset) => onset >= at)!;
  const found = phrasesOf(form)
    .slice(1)
    .map(({ from }) => firstNote(from));
  const stated = truth.phrases.slice(1);
  return { hits: found.filter((at) => stated.includes(at)).length, found: found.length, stated: stated.length };
}

/** Relations, where the phrases themselves were found. */
function relations(truth: Truth, form: Form): Count {
  const count = none();
  const phrases = phrasesOf(form);
  const numberOf = (id: string | null) => phrases.findIndex((phrase) => phrase.id === id) + 1;
  if (phrases.length !== truth.phrases.length) return count;
  for (const [number, relation] of Object.entries(truth.relations)) {
    const own = phrases[Number(number) - 1]!.relation;
    const isNew = relation === 'new';
    if (!isNew) count.stated += 1;
    if (own.of !== null) count.found += 1;
    if (!isNew && own.kind === relation[0] && numberOf(own.of) === relation[1]) count.hits += 1;
  }
  return count;
}

function licks(truth: Truth, form: Form): Count {
  const text = ({ beats, at }: { beats: number; at: readonly string[] }) => `${beats}: ${at.join(' ')}`;
  const stated = (truth.licks ?? []).map(text);
  const found = form.licks.map(({ beats, places }) =>
    text({ beats, at: places.map(({ bar, beat }) => `${bar}.${beat}`) }),
  );
  return { hits: found.filter((one) => stated.includes(one)).length, found: found.length, stated: stated.length };
}

function sum(truths: readonly Truth[], count: (truth: Truth, form: Form) => Count): Count {
  return truths.reduce((total, truth) => {
    const own = count(truth, analyseForm(truth.tune));
    return { hits: total.hits + own.hits, found: total.found + own.found, stated: total.stated + own.stated };
  }, none());
}

const regular = TRUTHS.filter((truth) => truth.regular);
const irregular = TRUTHS.filter((truth) => !truth.regular);

describe('tunes stated by hand', () => {
  it('are at least twenty-five, and their bars add up', () => {
    expect(TRUTHS.length).toBeGreaterThanOrEqual(25);
    for (const { name, tune } of TRUTHS) {
      const full = tune.bars.filter((bar) => bar.length === barLength(bar.metre)).length;
      expect(`${name}: ${full / tune.bars.length > 0.75}`).toBe(`${name}: true`);
    }
  });

  it.each([
    ['regular tunes', regular, 0.9],
    ['irregular tunes', irregular, 0.8],
  ] as const)('boundaries of %s', (name, truths, least) => {
    const count = sum(truths, boundaries);
    console.info(
      `boundaries, ${truths.length} ${name}: precision ${percent(precision(count))}, recall ${percent(recall(count))}`,
    );
    expect(precision(count)).toBeGreaterThanOrEqual(least);
    expect(recall(count)).toBeGreaterThanOrEqual(least);
  });

  it('relations', () => {
    const count = sum(TRUTHS, relations);
    console.info(
      `relations: precision ${percent(precision(count))}, recall ${percent(recall(count))} of ${count.stated}`,
    );
    expect(precision(count)).toBeGreaterThanOrEqual(0.9);
    expect(recall(count)).toBeGreaterThanOrEqual(0.9);
  });

  it('licks', () => {
    const count = sum(
      TRUTHS.filter((truth) => truth.licks !== null),
      licks,
    );
    console.info(`licks: precision ${percent(precision(count))}, recall ${percent(recall(count))} of ${count.stated}`);
    expect(precision(count)).toBeGreaterThanOrEqual(0.8);
    expect(recall(count)).toBeGreaterThanOrEqual(0.8);
  });

  it('part beginnings', () => {
    const count = sum(TRUTHS, (truth, form) => {
      const found = form.parts.slice(1).map(({ phrases }) => phrases[0]!.from);
      const stated = truth.parts.slice(1);
      return { hits: found.filter((at) => stated.includes(at)).length, found: found.length, stated: stated.length };
    });
    console.info(`parts: precision ${percent(precision(count))}, recall ${percent(recall(count))} of ${count.stated}`);
    expect(recall(count)).toBeGreaterThanOrEqual(0.9);
  });
});
