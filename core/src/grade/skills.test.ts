/** Techniques by name, written from the music; and demands against an independent reading of contracts. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrange } from '../arrange/index.ts';
import { arbitraryTune } from '../test/arbitrary.ts';
import { deciding, type Flat } from '../test/setups.ts';
import { tuneOf, type Header } from '../test/testing.ts';
import {
  GRADE_NUMBERS,
  breachesBeyond,
  breachesOf,
  contractFor,
  demandsOf,
  newTo,
  skillsOf,
  type SkillKind,
} from './index.ts';

const IN_D: Header = { key: 'D', tempo: '1/4=60' };
const asked = (music: string, kind: SkillKind, change: Flat = {}, header: Header = IN_D) =>
  skillsOf(arrange(tuneOf(music, header), deciding(change)))
    .filter((skill) => skill.kind === kind)
    .map(({ id, notes }) => [id, notes.join(' ')]);

describe('what is asked', () => {
  it('of the hand: each finger on its string, with where', () => {
    expect(asked('D2 E2 F2 D2 |', 'place')).toEqual([
      ['place:D4:0', 'n1 n4'],
      ['place:D4:1', 'n2'],
      ['place:D4:2', 'n3'],
    ]);
    expect(asked('D2 E2 =F2 A2 |', 'place').map(([id]) => id)).toContain('place:D4:2-low');
  });

  it('of positions by name, open strings in none', () => {
    expect(asked('D8 |', 'position')).toEqual([]);
    expect(asked('D4 E4 |', 'position')).toEqual([['position:I', 'n2']]);
    expect(asked("a2b2 c'2d'2 |", 'position', { wishes: { preset: 'third-position' } }).map(([id]) => id)).toEqual([
      'position:III',
    ]);
  });

  it('of finger patterns, by how far the fingers lie above the first one’s place', () => {
    expect(asked('E2 F2 G2 E2 |', 'pattern')).toEqual([['pattern:1=0,2=2,3=3', 'n1 n2 n3 n4']]);
    expect(asked('E2 =F2 E2 ^F2 |', 'pattern').map(([id]) => id)).toEqual(['pattern:1=0,2=1', 'pattern:2=2']);
  });

  it('of rhythms by name', () => {
    expect(asked('D2 E2 F4 | D3 E FG A2 | (3DEF G2 z2 A2 |', 'rhythm')).toEqual([
      ['rhythm:quarter', 'n1 n2 n8 n12 n14'],
      ['rhythm:half', 'n3'],
      ['rhythm:dotted-quarter+eighth', 'n4'],
      ['rhythm:eighth+eighth', 'n6'],
      ['rhythm:3:eighth+3:eighth+3:eighth', 'n9'],
      ['rhythm:rest-quarter', 'n13'],
    ]);
  });

  it('of the bow: slurs by length, lifts and stopped bows', () => {
    expect(asked('(DEF) G2 A2 B | (DE) (FG) A4 |', 'slur')).toEqual([
      ['slur:3', 'n1'],
      ['slur:2', 'n7 n9'],
    ]);
    expect(asked('D2 z2 vE4 |', 'stroke')).toEqual([['stroke:retake', 'n3']]);
    expect(asked('D2 vE2 F4 |', 'stroke')).toEqual([['stroke:hook', 'n2']]);
  });

  it('of two strings at once, and of strings that are retuned', () => {
    expect(asked('[DA]4 [EB]4 |', 'double-stop')).toEqual([
      ['double-stop:open', 'n1'],
      ['double-stop:fingered', 'n2'],
    ]);
    expect(asked('D8 |', 'tuning')).toEqual([]);
    expect(asked('D8 |', 'tuning', { tuning: 'low-pair-up' })).toEqual([['tuning:A3-E4-A4-E5', 'n1']]);
  });

  it('of the key', () => {
    expect(asked('D8 |', 'signature')).toEqual([['signature:2#', 'n1']]);
    expect(asked('F8 |', 'signature', {}, { key: 'Dm' })).toEqual([['signature:1b', 'n1']]);
  });

  it('and is new to somebody where it is not known', () => {
    const easy = skillsOf(arrange(tuneOf('D2 E2 F2 G2 |', IN_D)));
    const known = new Set(easy.map(({ id }) => id));
    expect(newTo(easy, known)).toEqual([]);
    const harder = skillsOf(arrange(tuneOf('D2 E2 =F2 (3GAB |', IN_D)));
    expect(newTo(harder, known).map(({ id }) => id)).toEqual([
      'place:D4:2-low',
      'place:A4:0',
      'place:A4:1',
      'pattern:1=0,2=1,3=3',
      'rhythm:3:eighth+3:eighth+3:eighth',
    ]);
  });
});

describe('demands', () => {
  it('that are measured whole are broken just where a contract that asks for its own is', () => {
    fc.assert(
      fc.property(arbitraryTune({ words: false }), fc.constantFrom(...GRADE_NUMBERS), (tune, grade) => {
        const facts = arrange(tune);
        const { limits } = contractFor('violin', grade);
        expect(breachesBeyond(demandsOf(facts), limits)).toEqual(breachesOf(facts, limits));
      }),
      { numRuns: 60 },
    );
  });
});
