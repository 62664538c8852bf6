/** What guests say, out of whatever comes: nothing that machines would read as more than words, nothing larger than it may be. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { wayFrom } from '../panels/way-in';
import { plainWords } from '../schema/plain-words';
import { guestMessage, guestSays, signalFrom } from './line';

describe('what a guest sends', () => {
  it('is read as it is meant, or not at all, whatever it is', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (raw) => {
        for (const read of [guestMessage, guestSays, signalFrom, wayFrom]) {
          const once = read(raw);
          if (once) expect(read(JSON.parse(JSON.stringify(once)))).toEqual(once);
        }
      }),
    );
    for (const raw of [
      { kind: 'enter', version: 1, show: 'x', secret: 'y'.repeat(300), device: 'd' },
      { kind: 'enter', version: '1', show: 'x', secret: 'y', device: 'd' },
      { kind: 'says', message: { kind: 'constructor' } },
      { kind: 'says', message: { kind: 'signal', signal: { description: { type: 'offer', sdp: 'x'.repeat(200_000) } } } },
      { kind: 'says', message: { kind: 'signal', signal: { candidate: { candidate: 'x'.repeat(9000) } } } },
      { kind: 'says', message: { kind: 'about', camera: 'x'.repeat(500) } },
      { kind: 'says', message: { kind: 'word', text: '\u202e\u0000 ' } },
      [],
      null,
    ])
      expect(guestMessage(raw), JSON.stringify(raw).slice(0, 80)).toBeNull();
  });

  it('tells what they are short of, by words that are known', () => {
    for (const shortOf of ['', 'line', 'machine']) expect(guestSays({ kind: 'about', shortOf })).toEqual({ kind: 'about', shortOf });
    for (const shortOf of ['constructor', 3, null]) expect(guestSays({ kind: 'about', shortOf })).toBeNull();
  });

  it('is plain words: controls and marks that turn writing round are out, and it has an end', () => {
    expect(plainWords('  Vik\u0000\u202eAasen\n\t ', 60)).toBe('Vik Aasen');
    expect(plainWords('<b>Vik</b>', 60)).toBe('<b>Vik</b>');
    expect(guestSays({ kind: 'about', said: 'x'.repeat(500) })).toEqual({ kind: 'about', said: 'x'.repeat(60) });
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), fc.integer({ min: 1, max: 60 }), (text, most) => {
        const words = plainWords(text, most);
        expect(words.length).toBeLessThanOrEqual(most);
        expect(words).not.toMatch(/[\p{Cc}\p{Zl}\p{Zp}\u200e\u200f\u202a-\u202e\u2066-\u2069]/u);
      }),
    );
    expect(plainWords('😀'.repeat(10_000), 50).length).toBeLessThanOrEqual(50);
  });
});
