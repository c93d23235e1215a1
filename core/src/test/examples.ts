/**
 * What examples in doc comments may use beside the core's own functions: a short reel, and what is worked out
 * from it. Not part of any public index.
 */
import { arrange } from '../arrange/index.ts';
import { analyseForm } from '../form/index.ts';
import { writeAbc } from '../formats/index.ts';
import type { Tune } from '../music/index.ts';
import { setupFor } from './setups.ts';
import { tuneOf } from './testing.ts';

const reel = tuneOf('|: G2BG dGBG | ABcA G4 | G2BG dGBG | A2F2 G4 :|', { key: 'G', tempo: '1/4=120' });
const facts = arrange(reel);
const [phrase] = facts.form.parts[0]!.phrases;

export const EXAMPLE_WORLD = {
  tuneOf,
  /** Notes of a tune as ABC, without its head. */
  abc: (tune: Tune) => writeAbc(tune).trim().split('\n').at(-1)!,
  reel,
  tune: reel,
  facts,
  arrangement: facts,
  form: analyseForm(reel),
  phrase: phrase!,
  hand: facts.hand,
  fingering: facts.fingering,
  setup: setupFor(),
};
