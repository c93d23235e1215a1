/** What stands at the top of a page: its title, facts in a line, and Nokta's dot. Whatever is long goes on in a further line. */
import { HEADER, MARGIN, SOFT, type PageHead, type Points } from './paperPage.ts';
import { TITLE_FONT, textSvg } from './svg.ts';
import { textWidth, wrappedTo } from './textWidth.ts';

/** A title is set in one line where that is not too small, else in several of this size. */
const TITLE = { most: 24, least: 17 } as const;
const FACTS: Points = 10;
/** Room for the dot at the right. */
const DOT: Points = 20;
/** From line to line, and from the title's foot to the facts'. */
const LEADING = 1.25;
const TO_FACTS: Points = 20;
const TO_MORE: Points = 15;

export interface HeadTexts {
  readonly title: string;
  readonly facts: string;
  /** A second line, softer. */
  readonly more?: string;
}

/** @param scale everything is so many times as large */
export function pageHead({ title, facts, more = '' }: HeadTexts, width: Points, scale = 1): PageHead {
  const room = width - 2 * MARGIN - DOT;
  const most = TITLE.most * scale;
  const size = Math.min(most, Math.max(TITLE.least, (most * room) / textWidth(title, most, 'title')));
  const titles = wrappedTo(title, room, size, 'title');
  let y = MARGIN + 22 * scale;
  const drawn = titles.map((line, row) =>
    textSvg(MARGIN, y + row * size * LEADING, line, { size, font: TITLE_FONT, weight: 'bold' }),
  );
  y += (titles.length - 1) * size * LEADING;
  const small = FACTS * Math.min(scale, MOST_FACTS);
  const add = (text: string, before: Points, colour?: string): void => {
    if (!text) return;
    y += before * Math.min(scale, MOST_FACTS);
    const lines = wrappedTo(text, width - 2 * MARGIN, small);
    drawn.push(
      ...lines.map((line, row) =>
        textSvg(MARGIN, y + row * small * LEADING, line, { size: small, ...(colour && { colour }) }),
      ),
    );
    y += (lines.length - 1) * small * LEADING;
  };
  add(facts, TO_FACTS);
  add(more, TO_MORE, SOFT);
  return {
    height: Math.max(HEADER, y - MARGIN + 18),
    markup: [...drawn, `<circle cx="${width - MARGIN - 5}" cy="${MARGIN + 15}" r="5" fill="#9a4a1c"/>`].join('\n'),
  };
}
/** What is beside the music need not be as large as it. */
const MOST_FACTS = 1.2;
