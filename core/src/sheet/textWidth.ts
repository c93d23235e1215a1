/** How wide a text is on paper, from the fonts' own widths: what is laid out around it never guesses. */

/** The faces that sheets are set in. */
export type Face = 'text' | 'bold' | 'title';

/** Thousandths of the size, from the space to the tilde; an accented letter is as wide as its letter. */
const FIRST = 0x20;
const WIDTHS: Readonly<Record<Face, readonly number[]>> = {
  text: numbers(`
    280 286 301 651 592 919 731 160 299 299 485 606 210 362 210 387 648 407 548 576 614 588 598 510 615 595 210 210
    553 628 553 480 778 626 613 645 669 569 552 694 694 392 512 631 541 824 693 714 592 724 614 592 558 690 593 856
    623 575 607 317 387 344 552 372 243 525 566 485 564 538 314 558 550 252 245 492 262 845 550 548 566 574 349 471
    326 540 461 684 481 449 460 344 237 344 555`),
  bold: numbers(`
    312 303 390 765 610 969 725 210 335 335 485 595 271 373 272 440 659 440 579 600 624 607 626 537 624 571 272 272
    569 612 569 547 781 678 643 658 688 597 566 718 701 424 561 663 552 858 717 746 629 756 650 610 607 686 644 886
    685 650 618 340 440 344 582 400 288 552 596 510 596 563 365 593 571 300 259 555 318 882 571 576 596 599 376 508
    376 567 530 740 539 521 505 381 254 381 537`),
  title: numbers(`
    218 321 373 661 604 782 977 178 364 364 624 561 281 410 271 497 675 469 618 565 629 588 619 528 617 622 274 286
    518 561 518 532 919 737 709 704 799 661 614 766 852 408 513 794 632 927 775 797 698 798 752 609 698 751 719 1060
    733 691 644 347 497 353 479 491 250 561 610 524 622 533 395 578 639 317 317 616 319 957 639 596 625 611 479 488
    389 629 560 835 552 571 493 402 284 402 638`),
};
/** Signs beyond those, at their widest. */
const SIGNS: Readonly<Record<string, number>> = {
  '·': 294,
  '–': 534,
  '—': 843,
  '‘': 269,
  '’': 269,
  '“': 479,
  '”': 479,
  '…': 912,
  '×': 536,
  '−': 606,
  ß: 697,
  æ: 900,
  Æ: 1000,
  œ: 900,
  Œ: 1050,
  ø: 600,
  '©': 950,
  ď: 710,
  đ: 622,
  ł: 350,
  ı: 317,
};
/** Any other sign or letter, of whichever font has it. */
const OTHER = 800;

/** Of the fallback font, with the room beside their ink taken off, so that they stand close to their letter. */
export const ACCIDENTALS: Readonly<Record<string, { readonly width: number; readonly before: number }>> = {
  '♭': { width: 0.36, before: -0.06 },
  '♮': { width: 0.27, before: -0.05 },
  '♯': { width: 0.38, before: -0.06 },
};

function numbers(text: string): readonly number[] {
  return text.trim().split(/\s+/).map(Number);
}

/** A letter without its accents. */
const plain = new Map<string, string>();
function plainOf(letter: string): string {
  const known = plain.get(letter);
  if (known !== undefined) return known;
  const found = letter.normalize('NFD')[0]!;
  plain.set(letter, found);
  return found;
}

/**
 * @returns width in the unit of `size`
 * @example textWidth('ab', 10) // 10.91
 */
export function textWidth(text: string, size: number, face: Face = 'text'): number {
  const widths = WIDTHS[face];
  let sum = 0;
  for (const letter of text) {
    const accidental = ACCIDENTALS[letter];
    if (accidental) sum += 1000 * accidental.width;
    else sum += SIGNS[letter] ?? widths[plainOf(letter).codePointAt(0)! - FIRST] ?? OTHER;
  }
  return (sum * size) / 1000;
}

/**
 * A text in lines no wider than that; a word that is wider by itself is cut.
 * @example wrappedTo('low first finger', 60, 10) // ['low first', 'finger']
 */
export function wrappedTo(text: string, width: number, size: number, face: Face = 'text'): readonly string[] {
  const lines: string[] = [];
  const add = (word: string) => {
    const last = lines.at(-1);
    const joined = last === undefined ? word : `${last} ${word}`;
    if (last !== undefined && textWidth(joined, size, face) <= width) lines[lines.length - 1] = joined;
    else lines.push(word);
  };
  for (const word of text.split(/\s+/).filter(Boolean)) for (const piece of pieces(word, width, size, face)) add(piece);
  return lines.length > 0 ? lines : [''];
}

function pieces(word: string, width: number, size: number, face: Face): readonly string[] {
  if (textWidth(word, size, face) <= width) return [word];
  const found: string[] = [];
  let piece = '';
  for (const letter of word) {
    if (piece !== '' && textWidth(piece + letter, size, face) > width) {
      found.push(piece);
      piece = '';
    }
    piece += letter;
  }
  return [...found, piece];
}
