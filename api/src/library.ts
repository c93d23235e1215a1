/** The library: lists, filters, first bars. */
import { z } from 'zod';
import { MOST_STEPS } from '@nokta/core/search';

export const SORTS = ['title', 'used', 'added', 'style', 'key'] as const;

export type Sort = (typeof SORTS)[number];

const several = z
  .union([z.string(), z.array(z.string())])
  .transform((value) => (Array.isArray(value) ? value : [value]))
  .default([]);

export const PAGE = 60;

export const listQuery = z.strictObject({
  words: z.string().max(200).default(''),
  /** Notes, or ups and downs; see `readMelodyQuery`. */
  melody: z
    .string()
    .max(20 * MOST_STEPS)
    .default(''),
  style: several,
  key: several,
  metre: several,
  form: several,
  trait: several,
  tag: several,
  sort: z.enum(SORTS).default('title'),
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(200).default(PAGE),
});

export const incipitQuery = z.strictObject({
  from: z.coerce.number().int().min(0).max(1_000_000).optional(),
  length: z.coerce.number().int().min(0).max(100).default(0),
});

export type ListQuery = z.input<typeof listQuery>;

/** A tune as the library lists it. */
export interface TuneSummary {
  readonly id: string;
  readonly title: string;
  readonly alsoKnownAs: readonly string[];
  readonly style: string;
  readonly composer: string;
  readonly key: string;
  readonly metre: string;
  readonly bars: number;
  readonly parts: string;
  /** How it is made: "question and answer". */
  readonly traits: readonly string[];
  /** Bars as they are played. */
  readonly played: number;
  readonly tags: readonly string[];
  /** Instruments and versions that it is set for: "cello", "violin, bare". */
  readonly settings: readonly string[];
  readonly revision: number;
  readonly updatedAt: string;
  readonly usedAt: string;
  /** Where the melody that was looked for stands, best place. */
  readonly place?: MelodyPlace;
}

export interface MelodyPlace {
  /** 1 is exact. */
  readonly score: number;
  /** Number of the sound that it begins with, from 0. */
  readonly from: number;
  readonly length: number;
}

export interface TuneList {
  readonly total: number;
  readonly tunes: readonly TuneSummary[];
}

/** First bars of a tune, or the bars of a place in it, engraved. Lengths are in staff spaces. */
export interface Incipit {
  /** Contents for `<svg viewBox={viewBox}>`; ink is `currentColor`, heads carry `data-note`. */
  readonly markup: string;
  readonly viewBox: string;
  readonly width: number;
  readonly height: number;
  /** Bar that it begins with, as people count. */
  readonly bar: number;
  /** Note that the place begins with, for opening the desk there. */
  readonly noteId: string | null;
  /** Notes of the place. */
  readonly marked: readonly string[];
}

/** What the library can be filtered by, with how many tunes have each. */
export interface Facets {
  readonly style: readonly Facet[];
  readonly key: readonly Facet[];
  readonly metre: readonly Facet[];
  readonly form: readonly Facet[];
  readonly trait: readonly Facet[];
  readonly tag: readonly Facet[];
  /** Tunes whose form is still being worked out. */
  readonly waiting: number;
}

export interface Facet {
  readonly value: string;
  readonly tunes: number;
}
