/** Sheets as the command line makes them. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { openZip } from '@nokta/core/formats';
import { nokta, usesFolder } from './test/nokta.ts';

const folder = usesFolder();

describe('nokta sheet', () => {
  it('converts, and makes a sheet on either paper', async () => {
    const xml = join(folder.directory, 'out.musicxml');
    expect((await nokta('convert', folder.file, '-o', xml, '--transpose', '-5')).code).toBe(0);
    expect(await readFile(xml, 'utf8')).toContain('<fifths>2</fifths>');
    const pdf = join(folder.directory, 'out.pdf');
    const made = await nokta('sheet', folder.file, '-o', pdf, '--paper', 'letter');
    expect(made.out).toContain('1 Letter page');
    expect((await readFile(pdf)).subarray(0, 5).toString()).toBe('%PDF-');
    const svg = join(folder.directory, 'out.svg');
    await nokta('sheet', folder.file, '-o', svg, '--bare', '--instrument', 'viola', '--transpose', '-7');
    expect(await readFile(svg, 'utf8')).toContain('bare version');
  }, 60_000);

  it('lays a sheet out as it is wished', async () => {
    const svg = join(folder.directory, 'tab.svg');
    await nokta(
      'sheet',
      folder.file,
      '-o',
      svg,
      '--layout',
      'tab',
      '--lanes',
      'tab,names',
      '--names',
      'german',
      '--landscape',
    );
    const page = await readFile(svg, 'utf8');
    expect(page).toContain('width="841.89"');
    // Without the staff its metre is said; B is H.
    expect(page).toContain('4/4');
    expect(page).toMatch(/>H<\/text>/);
    const refused = await nokta('sheet', folder.file, '-o', svg, '--lanes', 'tab,lyre');
    expect(refused).toMatchObject({ code: 2, out: '' });
    expect(refused.err).toContain('chords, counts');
  }, 60_000);

  it('prints warm-ups, how to read it, the weave and empty lines, as pictures too', async () => {
    const png = join(folder.directory, 'pages.png');
    const made = await nokta('sheet', folder.file, '-o', png, '--pages', 'how,warmups,weave,blank', '--fingerboard');
    expect(made.code).toBe(0);
    const first = await readFile(join(folder.directory, 'pages-1.png'));
    expect(first.subarray(1, 4).toString()).toBe('PNG');
    const svg = join(folder.directory, 'signs.svg');
    await nokta('sheet', folder.file, '-o', svg, '--finger-signs', 'letters', '--turned', '--string-names', 'sound');
    expect(await readFile(svg, 'utf8')).toMatch(/>L<\/text>/);
    const refused = await nokta('sheet', folder.file, '-o', svg, '--pages', 'poem');
    expect(refused.err).toContain('tune, how, warmups, plan, weave, chart, words, chords, blank');
  }, 60_000);

  it('counts as it is asked to, or as a Nokta file decided', async () => {
    const kept = join(folder.directory, 'counted.nokta.json');
    await nokta('convert', folder.file, '-o', kept, '--counting', 'ta');
    const svg = join(folder.directory, 'counted.svg');
    const said = async (...options: readonly string[]) => {
      await nokta('sheet', kept, '-o', svg, '--lanes', 'counts,bow,tab', ...options);
      const page = await readFile(svg, 'utf8');
      return ['>ti<', '>di<', '>&amp;<'].filter((text) => page.includes(text));
    };
    expect(await said('--as-decided')).toEqual(['>ti<']);
    expect(await said('--as-decided', '--counting', 'takadimi')).toEqual(['>di<']);
    expect(await said()).toEqual(['>&amp;<']);
    expect((await nokta('sheet', kept, '-o', svg, '--counting', 'drum')).err).toContain('takadimi');
  }, 60_000);

  it('prints charts, chords, and an address as a square', async () => {
    const svg = join(folder.directory, 'chart.svg');
    expect((await nokta('sheet', folder.file, '-o', svg, '--pages', 'chart')).code).toBe(0);
    expect(await readFile(svg, 'utf8')).toContain('Where the fingers go: Tar and Twine');
    await nokta('sheet', folder.file, '-o', svg, '--pages', 'chords');
    expect(await readFile(svg, 'utf8')).toContain('Chords to play along');
    await nokta('sheet', folder.file, '-o', svg, '--link', 'https://strings.example/tar');
    expect(await readFile(svg, 'utf8')).toContain('data-square="link"');
    expect((await nokta('sheet', folder.file, '-o', svg, '--link', 'tar')).err).toContain('begins with https://');
  }, 60_000);

  it('packs a group’s sheets and scores, each player’s own version', async () => {
    const zip = join(folder.directory, 'group.zip');
    const made = await nokta('sheet', folder.file, '-o', zip, '--for', 'violin,cello:1,cello:1', '--json');
    expect(JSON.parse(made.out)).toMatchObject({ players: 3 });
    const opened = openZip(await readFile(zip));
    expect(opened.ok && [...opened.value.names].sort()).toEqual([
      'Tar and Twine - Grade 1, cello (2).musicxml',
      'Tar and Twine - Grade 1, cello (2).pdf',
      'Tar and Twine - Grade 1, cello.musicxml',
      'Tar and Twine - Grade 1, cello.pdf',
      'Tar and Twine - The tune, violin.musicxml',
      'Tar and Twine - The tune, violin.pdf',
    ]);
    expect((await nokta('sheet', folder.file, '-o', zip)).err).toContain('--for');
    expect((await nokta('sheet', folder.file, '-o', zip, '--for', 'lute')).code).toBe(2);
  }, 60_000);
});
