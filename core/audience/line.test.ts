/** What pages of the audience send, out of whatever comes. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { isPicture, LONGEST_PICTURE, setUpFrom, visitorMessage } from './line';

it('is read as it is meant, or not at all, whatever it is', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (raw) => {
      const once = visitorMessage(raw);
      if (once) expect(visitorMessage(JSON.parse(JSON.stringify(once)))).toEqual(once);
      setUpFrom(raw);
    }),
  );
  for (const raw of [
    null,
    [],
    { kind: 'constructor' },
    { kind: '__proto__' },
    { kind: 'comment' },
    { kind: 'comment', text: '\u202e\u200b \n' },
    { kind: 'vote', poll: 'x', choice: 1.5 },
    { kind: 'vote', poll: 'x', choice: -1 },
    { kind: 'vote', poll: 'x'.repeat(500), choice: 0 },
    { kind: 'me', name: 'x', picture: 'data:image/svg+xml,<svg onload=alert(1)>' },
    { kind: 'me', name: 'x', picture: `/9j/${'A'.repeat(LONGEST_PICTURE)}` },
    { kind: 'enter', version: 1, show: 'x', secret: 'y'.repeat(300), device: 'd' },
  ])
    expect(visitorMessage(raw), JSON.stringify(raw)?.slice(0, 60)).toBeNull();
});

it('is plain words with an end, and pictures are JPEGs', () => {
  expect(visitorMessage({ kind: 'comment', text: '😀'.repeat(10_000) })).toMatchObject({ text: '😀'.repeat(140) });
  expect(visitorMessage({ kind: 'me', name: `  ${'x'.repeat(500)}` })).toEqual({ kind: 'me', name: 'x'.repeat(40), picture: null });
  expect(isPicture('/9j/4AAQSkZJRgABAQ==')).toBe(true);
  expect(isPicture('iVBORw0KGgo=')).toBe(false);
});

it('keeps joiners that writing needs, and no pile of marks', () => {
  const text = (words: string) => (visitorMessage({ kind: 'comment', text: words }) as { text: string } | null)?.text;
  expect(text('می\u200cخواهم 👩\u200d🚀')).toBe('می\u200cخواهم 👩\u200d🚀');
  expect(text(`z${'\u0301'.repeat(50)}algo`)).toBe(`z${'\u0301'.repeat(4)}algo`);
  expect(text('a\u200d b')).toBe('a b');
});
