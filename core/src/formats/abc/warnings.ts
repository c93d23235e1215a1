/** The parser's warnings in the teacher's words, with place and remedy. */
import type { Problem } from '../problem.ts';

interface Rule {
  readonly pattern: RegExp;
  readonly severity: Problem['severity'];
  say(match: RegExpExecArray, at: string): { message: string; remedy?: string };
}

const RULES: readonly Rule[] = [
  {
    pattern: /Expected '\]' to end the chords/,
    severity: 'error',
    say: () => ({ message: 'A chord that begins with [ is not closed.', remedy: 'Put ] after its last note.' }),
  },
  {
    pattern: /Missing the closing '\}'/,
    severity: 'error',
    say: () => ({
      message: 'Grace notes that begin with { are not closed.',
      remedy: 'Put } after the last grace note.',
    }),
  },
  {
    pattern: /Missing the closing quote/,
    severity: 'error',
    say: () => ({ message: 'A chord symbol or text has no closing quote.', remedy: 'Put " after it.' }),
  },
  {
    pattern: /Unknown decoration:\s*(\S+)/,
    severity: 'notice',
    say: (match) => ({ message: `The sign !${match[1]}! is not known here and was left out.` }),
  },
  {
    pattern: /Unknown character ignored/,
    severity: 'notice',
    say: (_, at) => ({
      message: `“${at}” means nothing in ABC and was skipped.`,
      remedy: 'Delete it, or check the notes around it.',
    }),
  },
  {
    pattern: /Unknown parameter:\s*(\S+)/,
    severity: 'notice',
    say: (match) => ({
      message: `“${match[1]}” was not understood in this field.`,
      remedy: 'Check the field’s spelling, for example K:G or K:Edor.',
    }),
  },
  {
    pattern: /triplet|tuplet/i,
    severity: 'notice',
    say: () => ({
      message: 'A triplet does not come out even.',
      remedy: 'Check the number after ( and the notes that follow.',
    }),
  },
];

/** Not a problem for us: such a length is written as tied notes. */
const MENDED = /Duration not representable/;

/** Warnings come as `Music Line:4:9: text:  source <span…>mark</span> source`. */
export function explainWarnings(warnings: readonly string[], lineOf: (line: number) => number): readonly Problem[] {
  const problems = warnings
    .filter((warning) => !MENDED.test(warning))
    .map((warning): Problem => {
      const place = /Line:(\d+):(\d+):\s*/.exec(warning);
      const at = /<span[^>]*>([\s\S]*?)<\/span>/.exec(warning)?.[1] ?? '';
      const text = warning.slice(place ? place.index + place[0].length : 0).replace(/<[^>]*>/g, '');
      const where = place ? { line: lineOf(Number(place[1])), column: Number(place[2]) } : {};
      for (const rule of RULES) {
        const match = rule.pattern.exec(text);
        if (match) return { severity: rule.severity, ...rule.say(match, unescape(at)), ...where };
      }
      const head = text.split(':  ')[0]!.trim();
      return { severity: 'notice', message: `${head}.`.replace(/\.\.$/, '.'), ...where };
    });
  return joinRuns(problems);
}

function unescape(text: string): string {
  return text.replaceAll('&lt;', '<').replaceAll('&gt;', '>').replaceAll('&amp;', '&');
}

/** A run of skipped characters is one problem, not one each. */
function joinRuns(problems: readonly Problem[]): readonly Problem[] {
  return problems.filter((problem, index) => {
    const before = problems[index - 1];
    return !(
      before &&
      problem.remedy === before.remedy &&
      problem.message.startsWith('“') &&
      problem.line === before.line &&
      (problem.column ?? 0) - (before.column ?? 0) === 1
    );
  });
}
