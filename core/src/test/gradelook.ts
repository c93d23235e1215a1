import { readFileSync, readdirSync } from 'node:fs';
import { readAbc, writeAbc } from '../formats/index.ts';
import { arrange, FIRST_DECISIONS, decided, bestOctave, gradedVersion } from '../arrange/index.ts';
const dir = new URL('../../../server/src/demo/tunes/', import.meta.url);
const [, , only, instrument = 'violin', show] = process.argv;
for (const f of readdirSync(dir)) {
  if (only && only !== 'all' && !f.includes(only)) continue;
  const r = readAbc(readFileSync(new URL(f, dir), 'utf8'));
  if (!r.ok) continue;
  let d = decided(FIRST_DECISIONS, { key: { instrument: instrument as never } });
  d = decided(d, { key: { transpose: instrument === 'violin' ? 0 : bestOctave(r.value.tune, d) } });
  const a = arrange(r.value.tune, d);
  const ctx = { ...a, tune: a.inKey, hand: d.hand, bow: d.bow };
  console.log('==', f, a.tune.bars.length, 'bars', a.tempo, 'qpm');
  if (show)
    console.log(
      writeAbc(a.inKey)
        .split('\n')
        .slice(-(+show || 6))
        .join('\n'),
    );
  for (const g of [1, 2, 3, 4, 5, 6] as const) {
    const t0 = performance.now();
    const v = gradedVersion(ctx, g);
    const rules = new Map<string, number>();
    v.breaches.forEach((b) => rules.set(b.rule, (rules.get(b.rule) ?? 0) + 1));
    console.log(
      ` ${g} like ${v.likeness.toFixed(2)} t ${v.transpose} changes ${v.changes.length} breaches ${v.breaches.length} ${[...rules].join(' ')} ${(performance.now() - t0).toFixed(0)}ms`,
    );
    if (show)
      console.log(
        writeAbc(v.tune)
          .split('\n')
          .filter((l) => !/^[A-Zs]:/.test(l) || l.startsWith('K:'))
          .join('\n'),
      );
  }
}
