/**
 * What is said on each note in the three systems, as teachers say it; written before any program was run on it. Silence is counted in
 * brackets, what a tie holds is not said again. A tuplet is said from where it starts: its first note by its place, the others by what
 * part of the tuplet they are.
 */
export interface CountTruth {
  readonly metre: string;
  readonly music: string;
  readonly numbers: string;
  readonly ta: string;
  readonly takadimi: string;
}

const row = (metre: string, music: string, numbers: string, ta: string, takadimi: string): CountTruth => ({
  metre,
  music,
  numbers,
  ta,
  takadimi,
});

export const COUNT_TRUTH: readonly CountTruth[] = [
  row('4/4', 'd8|', '1', 'ta-a-a-a', 'ta'),
  row('4/4', 'd4d4|', '1 3', 'ta-a ta-a', 'ta ta'),
  row('4/4', 'd2d2d2d2|', '1 2 3 4', 'ta ta ta ta', 'ta ta ta ta'),
  row('4/4', 'd6d2|', '1 4', 'ta-a-a ta', 'ta ta'),
  row('4/4', 'd2ef g2ab|', '1 2 & 3 4 &', 'ta ti ti ta ti ti', 'ta ta di ta ta di'),
  row('4/4', 'd/e/f/g/ d2 d4|', '1 e & a 2 3', 'ti ka ti ka ta ta-a', 'ta ka di mi ta ta'),
  row('4/4', 'de/f/ d2 d4|', '1 & a 2 3', 'ti ti ka ta ta-a', 'ta di mi ta ta'),
  row('4/4', 'd/e/f d2 d4|', '1 e & 2 3', 'ti ka ti ta ta-a', 'ta ka di ta ta'),
  row('4/4', 'd3e f4|', '1 & 3', 'tam ti ta-a', 'ta di ta'),
  row('4/4', 'd3/2e/ f2 g4|', '1 a 2 3', 'tim ka ta ta-a', 'ta mi ta ta'),
  row('4/4', 'd/e3/2 f2 g4|', '1 e 2 3', 'ti tim ta ta-a', 'ta ka ta ta'),
  row('4/4', 'de2f g4|', '1 & & 3', 'ti ta ti ta-a', 'ta di di ta'),
  row('4/4', 'z2d2 zd e2|', '(1) 2 (3) & 4', '(ta) ta (ti) ti ta', '(ta) ta (ta) di ta'),
  row('4/4', 'd4-d2e2|', '1 4', 'ta-a ta', 'ta ta'),
  row('4/4', 'A2|d4f4|', '4 1 3', 'ta ta-a ta-a', 'ta ta ta'),
  row('4/4', 'A|d4f4|', '& 1 3', 'ti ta-a ta-a', 'di ta ta'),
  // Triplets in a beat, over two beats from any beat on, in half a beat; with silences and unequal notes.
  row('4/4', '(3def g2 a4|', '1 la li 2 3', 'tri o la ta ta-a', 'ta ki da ta ta'),
  row('4/4', 'd2(3efg a4|', '1 2 la li 3', 'ta tri o la ta-a', 'ta ta ki da ta'),
  row('4/4', 'd2d2(3efg a2|', '1 2 3 la li 4', 'ta ta tri o la ta', 'ta ta ta ki da ta'),
  row('4/4', 'd2d2d2(3efg|', '1 2 3 4 la li', 'ta ta ta tri o la', 'ta ta ta ta ki da'),
  row('4/4', '(3d2e2f2 g4|', '1 la li 3', 'tri o la ta-a', 'ta ki da ta'),
  row('4/4', 'd2(3e2f2g2 a2|', '1 2 la li 4', 'ta tri o la ta', 'ta ta ki da ta'),
  row('4/4', 'd4(3e2f2g2|', '1 3 la li', 'ta-a tri o la', 'ta ta ki da'),
  row('4/4', '(3:2:2d2e f2 g4|', '1 li 2 3', 'tri la ta ta-a', 'ta da ta ta'),
  row('4/4', '(3:2:2de2 f2 g4|', '1 la 2 3', 'tri o ta ta-a', 'ta ki ta ta'),
  row('4/4', '(3d/e/f/ g d2 d4|', '1 la li & 2 3', 'tri o la ti ta ta-a', 'ta ki da di ta ta'),
  row('4/4', 'd(3e/f/g/ d2 d4|', '1 & la li 2 3', 'ti tri o la ta ta-a', 'ta di ki da ta ta'),
  row('4/4', '(3zde f2 g4|', '(1) la li 2 3', '(tri) o la ta ta-a', '(ta) ki da ta ta'),
  row('4/4', '(3dze f2 g4|', '1 (la) li 2 3', 'tri (o) la ta ta-a', 'ta (ki) da ta ta'),
  row('4/4', '(6defgab d2 d4|', '1 ta la ta li ta 2 3', 'tri o la tri o la ta ta-a', 'ta va ki di da ma ta ta'),
  // Halves are the beat.
  row('2/2', 'd8|', '1', 'ta-a-a-a', 'ta'),
  row('2/2', 'd4d4|', '1 2', 'ta-a ta-a', 'ta ta'),
  row('2/2', 'd2e2f2g2|', '1 & 2 &', 'ta ta ta ta', 'ta di ta di'),
  row('2/2', 'defg d4|', '1 e & a 2', 'ti ti ti ti ta-a', 'ta ka di mi ta'),
  row('2/2', '(3def g2 a4|', '1 la li & 2', 'tri o la ta ta-a', 'ta ki da di ta'),
  row('2/2', 'd2(3efg a4|', '1 & la li 2', 'ta tri o la ta-a', 'ta di ki da ta'),
  row('2/2', 'd4d2(3efg|', '1 2 & la li', 'ta-a ta tri o la', 'ta ta di ki da'),
  row('2/2', '(3d2e2f2 g4|', '1 la li 2', 'tri o la ta-a', 'ta ki da ta'),
  row('2/2', 'd4(3e2f2g2|', '1 2 la li', 'ta-a tri o la', 'ta ta ki da'),
  row('2/2', 'A2|d4f4|', '& 1 2', 'ta ta-a ta-a', 'di ta ta'),
  row('3/4', 'd2e2f2|', '1 2 3', 'ta ta ta', 'ta ta ta'),
  row('3/4', 'd6|', '1', 'ta-a-a', 'ta'),
  row('3/4', 'd3e f2|', '1 & 3', 'tam ti ta', 'ta di ta'),
  row('3/4', '(3d2e2f2 g2|', '1 la li 3', 'tri o la ta', 'ta ki da ta'),
  row('3/4', 'd2(3e2f2g2|', '1 2 la li', 'ta tri o la', 'ta ta ki da'),
  row('3/4', 'd2(3efg a2|', '1 2 la li 3', 'ta tri o la ta', 'ta ta ki da ta'),
  row('3/4', 'z2 e2f2|', '(1) 2 3', '(ta) ta ta', '(ta) ta ta'),
  row('2/4', 'd2ef|', '1 2 &', 'ta ti ti', 'ta ta di'),
  row('2/4', 'd/e/f/g/ a2|', '1 e & a 2', 'ti ka ti ka ta', 'ta ka di mi ta'),
  row('2/4', '(3def ga|', '1 la li 2 &', 'tri o la ti ti', 'ta ki da ta di'),
  row('2/4', '(3d2e2f2|', '1 la li', 'tri o la', 'ta ki da'),
  row('5/4', 'd2d2d2d2d2|', '1 2 3 4 5', 'ta ta ta ta ta', 'ta ta ta ta ta'),
  // Three eighths are the beat; two and four in their time.
  row('6/8', 'd6|', '1', 'ta-a-a', 'ta'),
  row('6/8', 'd3e3|', '1 2', 'tam tam', 'ta ta'),
  row('6/8', 'd2ef2g|', '1 li 2 li', 'ta ti ta ti', 'ta da ta da'),
  row('6/8', 'defgab|', '1 la li 2 la li', 'ti ti ti ti ti ti', 'ta ki da ta ki da'),
  row('6/8', 'de2f3|', '1 la 2', 'ti ta tam', 'ta ki ta'),
  row('6/8', '(2de(2fg|', '1 & 2 &', 'ti ti ti ti', 'ta di ta di'),
  row('6/8', 'd3(2ef|', '1 2 &', 'tam ti ti', 'ta ta di'),
  row('6/8', '(4defg a3|', '1 e & a 2', 'ti ti ti ti tam', 'ta ka di mi ta'),
  row('6/8', 'd3(4efga|', '1 2 e & a', 'tam ti ti ti ti', 'ta ta ka di mi'),
  row('6/8', 'd3/2e/f g3|', '1 ta li 2', 'tim ka ti tam', 'ta di da ta'),
  row('6/8', 'd/e/f/g/a/b/ c3|', '1 ta la ta li ta 2', 'ti ka ti ka ti ka tam', 'ta va ki di da ma ta'),
  row('6/8', 'A|d3e3|', 'li 1 2', 'ti tam tam', 'da ta ta'),
  row('6/8', 'zdef3|', '(1) la li 2', '(ti) ti ti tam', '(ta) ki da ta'),
  row('6/8', 'd3-d2e|', '1 li', 'tam ti', 'ta da'),
  row('9/8', 'd3efga3|', '1 2 la li 3', 'tam ti ti ti tam', 'ta ta ki da ta'),
  row('9/8', 'd2e(2fga3|', '1 li 2 & 3', 'ta ti ti ti tam', 'ta da ta di ta'),
  row('12/8', 'd3e3f2ga3|', '1 2 3 li 4', 'tam tam ta ti tam', 'ta ta ta da ta'),
];
