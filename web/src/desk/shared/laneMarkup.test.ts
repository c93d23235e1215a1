/** @vitest-environment happy-dom */
import { expect, it } from 'vitest';
import type { Shape } from '@nokta/core/sheet';
import { laneMarkup } from './laneMarkup.ts';

/** The one element of a shape's markup, as a browser reads it. */
function read(shape: Shape): Element {
  const host = document.createElementNS('http://www.w3.org/2000/svg', 'g');
  host.innerHTML = laneMarkup([shape]);
  expect(host.children).toHaveLength(1);
  return host.children[0]!;
}

it('draws text in the ink, size and weight of its role', () => {
  const text = read({ kind: 'text', role: 'position', x: 3, y: 4, text: 'II', anchor: 'middle' });
  expect(text.textContent).toBe('II');
  expect(text.getAttribute('fill')).toBe('var(--soft)');
  expect([text.getAttribute('font-size'), text.getAttribute('font-weight')]).toEqual(['10', 'bold']);
});

it('shows words and chord names as they are written, whatever is in them', () => {
  const word = '<b onclick="x()">&amp; "so"</b>';
  expect(read({ kind: 'text', role: 'word', x: 0, y: 0, text: word, anchor: 'start' }).textContent).toBe(word);
});

it('takes width, dash and colour of a line that has its own, and of its role where it has none', () => {
  const line = { kind: 'line', role: 'hair-middle', x1: 0, y1: 1, x2: 9, y2: 1 } as const;
  const plain = read(line);
  expect(['stroke', 'stroke-width', 'stroke-dasharray'].map((name) => plain.getAttribute(name))).toEqual([
    'var(--soft)',
    '0.6',
    '1 4',
  ]);
  const own = read({ ...line, width: 2, dash: '3 1', colour: '#802020' });
  expect(own.getAttribute('stroke')).toContain('#802020');
  expect([own.getAttribute('stroke-width'), own.getAttribute('stroke-dasharray')]).toEqual(['2', '3 1']);
});
