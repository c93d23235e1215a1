/** What the arrangements of a tune are called. */
import type { Decisions } from '../arrange/index.ts';
import { tuningOf } from '../instrument/index.ts';
import { keyName, transposeKey, type Key } from '../music/index.ts';
import { versionName } from './grade.ts';

/** What names are made of. */
export type Named = Pick<Decisions, 'key' | 'version' | 'hand'>;

/**
 * Names of a tune's arrangements, in their order: grade, instrument with its size, whose hand. Where two would be called
 * the same, tuning and key tell them apart, then numbers: no two are called the same.
 *
 * @param key of the tune as it is written
 * @param calledNow what a learner is called by now
 * @example arrangementNames([FIRST_DECISIONS], reel.bars[0].key) // ['The tune, violin']
 */
export function arrangementNames(
  all: readonly Named[],
  key: Key,
  calledNow: (learner: NonNullable<Decisions['hand']['learner']>) => string = ({ name }) => name,
): readonly string[] {
  const plain = all.map(({ version, key: { instrument, make }, hand: { learner } }) => {
    const own = versionName(version, inText(make?.name ?? instrument));
    return learner && !version.name ? `${own}, ${calledNow(learner)}` : own;
  });
  const tellings: readonly ((one: Named) => string)[] = [
    ({ key: own }) => inText(tuningOf(own).name),
    ({ key: { transpose } }) => `in ${keyName(transposeKey(key, transpose).key)}`,
  ];
  const told = tellings.reduce<readonly string[]>((names, tell) => tellApart(names, all.map(tell)), plain);
  return numbered(told);
}

/**
 * The name of an instrument inside a sentence or another name.
 * @example inText('Half-size violin') // 'half-size violin'
 */
export const inText = (name: string): string =>
  /^\p{Lu}\p{Ll}/u.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name;

/** Adds what differs to names that are the same. */
function tellApart(names: readonly string[], marks: readonly string[]): readonly string[] {
  return names.map((name, index) => {
    const same = [...names.keys()].filter((other) => names[other] === name);
    return new Set(same.map((other) => marks[other])).size > 1 ? `${name}, ${marks[index]}` : name;
  });
}

function numbered(names: readonly string[]): readonly string[] {
  const used = new Set<string>();
  return names.map((name) => {
    let free = name;
    for (let times = 2; used.has(free); times += 1) free = `${name} (${times})`;
    used.add(free);
    return free;
  });
}
