/** Small tunes as they come in, each about one thing that readers get wrong. Test data; not part of any public index. */

export interface IncomingAbc {
  readonly what: string;
  readonly header: string;
  readonly body: string;
  /** An independent player plays it as the standard has it. */
  readonly player: boolean;
}

/** The whole text. @example abcOf(INCOMING[0]!).startsWith('X:1') // true */
export const abcOf = ({ header, body }: Pick<IncomingAbc, 'header' | 'body'>): string =>
  `X:1\nT:Test\n${header}\n${body}\n`;

type Row = readonly [what: string, header: string, body: string];
const rows = (player: boolean, list: readonly Row[]): readonly IncomingAbc[] =>
  list.map(([what, header, body]) => ({ what, header, body, player }));

const FOUR = 'M:4/4\nL:1/4\nK:C';

export const INCOMING: readonly IncomingAbc[] = [
  ...rows(true, [
    ['M: in mid-tune', FOUR, 'CDEF|\nM:3/4\nCDE|FGA|'],
    ['M: and K: in mid-tune', FOUR, 'CDEF|\nM:3/4\nK:D\nCDE|FGA|'],
    ['L: in mid-tune', FOUR, 'CDEF|\nL:1/8\nCDEFGABc|'],
    ['a repeat', 'M:4/4\nL:1/4\nK:G', '|:GABc:|GBdg|'],
    ['two repeats side by side', 'M:4/4\nL:1/4\nK:G', '|:GABc::GBdg:|'],
    ['endings', 'M:4/4\nL:1/4\nK:G', '|:GABc|1GBdB:|2GBdg|'],
    ['(3', FOUR, '(3CDE FG|'],
    ['(5 in 6/8', 'M:6/8\nL:1/8\nK:C', '(5CDEFG C3|'],
    ['(2 in 6/8', 'M:6/8\nL:1/8\nK:C', '(2CD C3|'],
    ['(4 in 6/8', 'M:6/8\nL:1/8\nK:C', '(4CDEF C3|'],
    ['(5 in 4/4', 'M:4/4\nL:1/8\nK:C', '(5CDEFG C6|'],
    ['a tie over the bar', FOUR, 'CDEF-|F2GA|'],
    ['a tie in a chord', FOUR, '[CE]-[CE][CF]G|'],
    ['a drone that is tied', FOUR, '[A-C][A-D][AE]F|'],
    ['accidentals in the bar', FOUR, '^FFGF|FGAB|'],
    ['a flat key', 'M:4/4\nL:1/4\nK:Eb', 'EGBe|dcBA|'],
    ['a mode', 'M:4/4\nL:1/4\nK:Ddor', 'DEFG|ABcd|'],
    ['rests', FOUR, 'CzDz|z2EF|'],
    ['dotted pairs', 'M:4/4\nL:1/8\nK:C', 'C>DE<F G2A2|'],
    ['octave marks', FOUR, "C,Cc'c|"],
    ['a pickup', 'M:4/4\nL:1/4\nK:G', 'D|GABc|d3|'],
    ['6/8', 'M:6/8\nL:1/8\nK:D', 'ABA FED|d3 A3|'],
    ['a change of metre in brackets', FOUR, 'CDEF|[M:2/4]CD|EF|'],
    ['a change of key in brackets', FOUR, 'CDEF|[K:A]CDEF|'],
  ]),
  ...rows(false, [
    ['M: twice', FOUR, 'CDEF|\nM:3/4\nCDE|\nM:2/4\nCD|CD|'],
    ['Q: in mid-tune', 'M:4/4\nL:1/4\nQ:1/4=120\nK:C', 'CDEF|\nQ:1/4=80\nCDEF|'],
    ['+: in the header', 'N:one\n+:two\nM:3/4\nL:1/4\nK:G', 'CDE|'],
    ['+: below words', FOUR, 'CDEF|\nw:one two\n+:three four'],
    ['a section of three times', FOUR, '|::CDEF::|'],
    ['a section of four times', FOUR, '|:::CDEF:::|'],
    ['!dacoda!', FOUR, 'CDEF|!dacoda!CDEF|GABc !D.C.alcoda!|!coda!cBAG|'],
    ['two !coda!', FOUR, 'CDEF|!coda!CDEF|GABc !D.C.alcoda!|!coda!cBAG|'],
    ['!segno! and !fine!', FOUR, '!segno!CDEF|GABc !fine!|cBAG !D.S.alfine!|]'],
    ['free metre', 'M:none\nL:1/4\nK:C', 'CDEFGA|CD|E3|'],
    ['transpose=', 'M:4/4\nL:1/4\nK:C transpose=-12', 'CDEF|'],
    ['a clef with an 8', 'M:4/4\nL:1/4\nK:C clef=treble-8', 'CDEF|'],
    ['Q:C=100', 'M:4/4\nL:1/4\nQ:C=100\nK:C', 'CDEF|'],
    ['Q: of several beats', 'M:5/4\nL:1/4\nQ:1/4 3/8=40\nK:C', 'CDEFG|'],
    ['(5:4', 'M:6/8\nL:1/8\nK:C', '(5:4CDEFG C2|'],
    ['two fingers on a note', FOUR, '!1!!2!CDEF|'],
    ['a grace with a slash', FOUR, '{/c}CDEF|'],
    ['a melisma after a hyphen', FOUR, 'CDEF|\nw:la-_ la la'],
    ['verses', FOUR, 'CDEF|\nw:one two three four\nw:a b c d'],
    ['chords and words above', FOUR, '"C""^gently"CDEF|"G7"GABc|'],
    ['a pickup inside an ending', 'M:4/4\nL:1/4\nK:G', 'D|:GABc|1d3 D:|2d4|]'],
  ]),
];
