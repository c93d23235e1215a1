/** Counting aloud with the browser's own voice, where it has one. */

/** Words are said fast: the next beat comes soon. */
const RATE = 1.6;

export const canSpeak = (): boolean => typeof speechSynthesis !== 'undefined';

/** Says a count; what was still to be said is late, and left out. */
export function say(text: string): void {
  if (!canSpeak()) return;
  speechSynthesis.cancel();
  const words = new SpeechSynthesisUtterance(text === '&' ? 'and' : text);
  words.rate = RATE;
  speechSynthesis.speak(words);
}

/** Reads a text at the pace of talking; what was being read ends. */
export function readAloud(text: string): void {
  if (!canSpeak()) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

export function sayNothing(): void {
  if (canSpeak()) speechSynthesis.cancel();
}
