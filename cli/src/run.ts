/** What the command line does with its words. */
import {
  bow,
  contract,
  convert,
  difficulty,
  finger,
  form,
  grade,
  harmony,
  keys,
  talk,
  tension,
  type Command,
} from './commands.ts';
import { COUNTINGS, PATTERN_IDS } from '@nokta/core/bow';
import { LINE_ROLES } from '@nokta/core/grade';
import { POSITIONS, PRESET_IDS } from '@nokta/core/hand';
import { LANE_IDS } from '@nokta/core/sheet';
import { book } from './book.ts';
import { sheet } from './sheet.ts';
import { InputError } from './input.ts';
import { UsageError, readOptions } from './options.ts';

const COMMANDS: Readonly<Record<string, { readonly run: Command; readonly about: string }>> = {
  convert: { run: convert, about: 'FILE -o OUT        write the tune as .abc, .musicxml, .mxl, .mid or .nokta.json' },
  form: { run: form, about: 'FILE               parts, phrases, what is the same, what is left to learn' },
  finger: {
    run: finger,
    about: 'FILE               strings and fingers, with the price of every alternative in --json',
  },
  bow: { run: bow, about: 'FILE               strokes, their directions, and where on the hair each lies' },
  sheet: {
    run: sheet,
    about: 'FILE -o OUT        the finger tab sheet as .svg, .pdf or .png; for a group (--for) a .zip',
  },
  book: {
    run: book,
    about: 'FILE… -o OUT       the tunes of these files as a book, .pdf; for a group (--for) a .zip with one for each',
  },
  grade: {
    run: grade,
    about: 'FILE --grade N     a version for that grade: what it changes, what it breaks; -o OUT writes it',
  },
  difficulty: {
    run: difficulty,
    about: 'FILE               how difficult, by what, phrase by phrase, and which grade it is',
  },
  talk: {
    run: talk,
    about:
      'FILE               what to say at the stand, phrase by phrase: --voice fingers, names or both; --short, --plain',
  },
  harmony: {
    run: harmony,
    about: 'FILE               the chords under it, written or found; --found leaves the written ones aside',
  },
  contract: { run: contract, about: '--grade N          what a version of that grade may ask of the instrument' },
  keys: {
    run: keys,
    about: 'FILE               every key in which it can be played, easiest first; --for: those that all share',
  },
  tension: { run: tension, about: '--tuning T         what a tuning does to the strings' },
};

const HELP = `nokta <command> <file> [options]

${Object.entries(COMMANDS)
  .map(([name, { about }]) => `  ${name.padEnd(10)} ${about}`)
  .join('\n')}

<file> is .abc, .musicxml, .xml, .mxl, .mid, .nokta.json or a .zip of them, known by what is inside;
or - with --from and one of these endings.
  --json                    print JSON
  --tune N, --voice N       which tune of the file, which voice (1)
  --instrument NAME         violin, viola, cello, bass (violin)
  --tuning T                a preset, or pitches low to high: A3,E4,A4,E5
  --transpose N             semitones
  --tempo N                 quarters per minute (the tune's, else 96)
  --bare                    the bare version: one note a beat
  --no-fourth               the learner has no fourth finger
  --no-extension            no stretches; --no-double-stops: the top note alone
  --max-position P          ${POSITIONS.join(', ')}
  --bass-school S           three or four fingers
  --cello-school S          shift or extend first
  --preset P                ${PRESET_IDS.slice(0, 4).join(', ')},
                            ${PRESET_IDS.slice(4).join(', ')}
  --open-strings W          fourth, open or context: which comes first (context)
  --school S                as-it-comes or down-on-the-beat (as-it-comes)
  --pattern P               ${PATTERN_IDS.slice(0, 6).join(', ')},
                            ${PATTERN_IDS.slice(6).join(', ')}
  --start D                 down or up: the very first stroke
  --max-slur N              most notes to a stroke, the tune's slurs too
  --slurs S                 keep, prefer or ignore the tune's slurs (keep)
  --every-mark              a sign on every stroke, not only where one is needed
  --grade N                 1 to 6: the version for that grade, under its contract
  --line L                  ${LINE_ROLES.join(', ')}: with --grade, a line that goes
                            with the tune in its place
  --keep-key                such a version stays in the tune's key
  --density N               0 to 100: how much a richer version adds (50)
  --keep-fingers            keep the fingers and strings that the file brings along
  --as-decided              use what a Nokta file decided for the instrument
  --paper P                 a4 or letter (a4); --landscape
  --layout L                usual, tab (without a staff), staff (by width), big, cue (one phrase: --phrase p2)
  --lanes A,B               ${LANE_IDS.join(', ')}
  --pages A,B               tune, how, warmups, plan, weave, chart, words, chords, blank (tune)
  --names N                 english, german, fixed-do; --finger-words sign-first, finger-first, letter
  --finger-signs S          dots, letters, arrows, plain; --string-names place, sound
  --counting C              ${COUNTINGS.join(', ')} (numbers)
  --bar-numbers N           none, lines, bars (lines)
  --size S                  usual, large, largest: music, title, words and legend
  --folded, --in-full       a phrase that comes again by its name alone, or printed anew
  --lesson                  name, date and practice boxes at the top; --date 2026-03-14, --next "what to do"
  --link URL                the address of a page to practise with, printed as a square
  --writing-lines N         0 to 4 empty lines under each phrase
  --turned                  the lowest string on top; --fingerboard: a small one beside each phrase
  --for P,P                 players of a group, each an instrument and a grade (cello:2): a sheet each, into a .zip
  --title T, --warm-ups     of a book: its title, and what is played before its tunes; its --paper is also
                            a5-booklet, half-letter-booklet (to be folded), a4-two-up or letter-two-up
  --tab                     MusicXML with a staff of finger tablature

Exit code 0, or 2 for input or options that cannot be used.`;

/** @returns the exit code: 0, or 2 for input or options that cannot be used */
export async function run(args: readonly string[]): Promise<number> {
  const [name, ...rest] = args;
  const command = COMMANDS[name ?? ''];
  if (name === undefined || name === '--help' || name === '-h' || rest.includes('--help') || rest.includes('-h')) {
    console.log(HELP);
    return 0;
  }
  try {
    if (!command) throw new UsageError(`There is no command “${name}”. Commands: ${Object.keys(COMMANDS).join(', ')}.`);
    console.log(await command.run(readOptions(rest, command.run === book)));
    return 0;
  } catch (error) {
    if (!(error instanceof UsageError || error instanceof InputError)) throw error;
    console.error(error.message);
    return 2;
  }
}
