/** Any file out: an arrangement in each open format, by the ending of its name. */
import { arrangementXml, writtenTune, type Arrangement } from '../arrange/index.ts';
import { slurredOn } from '../bow/index.ts';
import { packMxl, writeAbc, writeMidi } from '../formats/index.ts';
import { writeNokta, type NoktaContents } from './nokta.ts';

export const ENDINGS = ['abc', 'musicxml', 'mxl', 'mid', 'nokta.json'] as const;
export type Ending = (typeof ENDINGS)[number];

/**
 * The ending that a file name has, `.xml` and `.midi` included; null for any other.
 * @example endingOf('reel.nokta.json') // 'nokta.json'
 */
export function endingOf(name: string): Ending | null {
  const lower = name.toLowerCase();
  if (lower.endsWith('.xml')) return 'musicxml';
  if (lower.endsWith('.midi')) return 'mid';
  return ENDINGS.find((ending) => lower.endsWith(`.${ending}`)) ?? null;
}

export interface SaveOptions {
  /** MusicXML with a staff of finger tablature. */
  readonly tab?: boolean;
}

export const MEDIA_TYPE: Readonly<Record<Ending, string>> = {
  abc: 'text/vnd.abc; charset=utf-8',
  musicxml: 'application/vnd.recordare.musicxml+xml',
  mxl: 'application/vnd.recordare.musicxml',
  mid: 'audio/midi',
  'nokta.json': 'application/json',
};

/**
 * The tune as it is set in this arrangement. A Nokta file holds the tune as brought in, with all decisions.
 * @example typeof saveArrangement(arrangement, 'abc', { tune: reel, arrangements: [], tags: [], versions: [] }) // 'string'
 */
export function saveArrangement(
  arrangement: Arrangement,
  ending: Ending,
  contents: NoktaContents,
  options: SaveOptions = {},
): string | Uint8Array {
  switch (ending) {
    case 'abc':
      return writeAbc(writtenTune(arrangement));
    case 'musicxml':
      return arrangementXml(arrangement, options);
    case 'mxl':
      return packMxl(arrangementXml(arrangement, options));
    case 'mid':
      return midiOf(arrangement);
    case 'nokta.json':
      return writeNokta(contents);
  }
}

function midiOf({ tune, decisions, instrument, tempo, bowing, rounds }: Arrangement): Uint8Array {
  // The working tempo is what the teacher hears; it goes into the file too.
  const own = decisions.pace.tempo === null ? tune : { ...tune, tempo: null };
  return writeMidi(own, {
    partName: instrument.name,
    program: instrument.program,
    tempo,
    slurred: slurredOn(bowing),
    ...(rounds.length > 0 && { rounds }),
  });
}
