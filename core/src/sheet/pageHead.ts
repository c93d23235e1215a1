/** What stands at the top of a page: its title, facts in a line, and Nokta's dot. */
import { MARGIN, SOFT, type Points } from './paperPage.ts';
import { TITLE_FONT, textSvg } from './svg.ts';

/** Long titles are set smaller, so that they stay on the line. */
const titleSize = (title: string) => (title.length > 60 ? 14 : title.length > 38 ? 18 : 24);

/** @param more a second line, softer */
export function pageHead(title: string, facts: string, width: Points, more = ''): string {
  return [
    textSvg(MARGIN, MARGIN + 22, title, { size: titleSize(title), font: TITLE_FONT, weight: 'bold' }),
    facts ? textSvg(MARGIN, MARGIN + 42, facts, { size: 10 }) : '',
    more ? textSvg(MARGIN, MARGIN + 57, more, { size: 10, colour: SOFT }) : '',
    `<circle cx="${width - MARGIN - 5}" cy="${MARGIN + 15}" r="5" fill="#9a4a1c"/>`,
  ].join('\n');
}
