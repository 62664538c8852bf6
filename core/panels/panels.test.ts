import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inParts, PartReader } from './parts';

describe('messages in parts', () => {
  it('come out as they went in, whatever their length', () => {
    fc.assert(
      fc.property(fc.array(fc.jsonValue(), { minLength: 1, maxLength: 5 }), fc.integer({ min: 1, max: 40 }), (messages, length) => {
        const reader = new PartReader(100_000);
        const read = messages.flatMap((m) => inParts({ m }, length)).map((text) => reader.read(text));
        expect(read.filter((m) => m !== undefined)).toEqual(messages.map((m) => JSON.parse(JSON.stringify({ m })) as unknown));
      }),
    );
  });

  it('are refused out of order, in the middle of each other and over the limit, and the line goes on', () => {
    const parts = inParts({ text: 'x'.repeat(100) }, 30);
    for (const order of [[1], [0, 2], [0, 0]]) {
      const reader = new PartReader(1000);
      expect(() => order.forEach((i) => reader.read(parts[i] as string))).toThrow('out of order');
      expect(parts.map((p) => reader.read(p)).at(-1)).toEqual({ text: 'x'.repeat(100) });
    }
    const reader = new PartReader(1000);
    reader.read(parts[0] as string);
    expect(() => reader.read('{"kind":"status"}')).toThrow('middle');
    const small = new PartReader(50);
    expect(() => parts.forEach((p) => small.read(p))).toThrow('too many');
    expect(() => new PartReader(50).read('{"kind":"part","index":0,"count":1e9,"text":7}')).toThrow();
  });
});
