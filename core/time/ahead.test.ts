/** States that are known before their frame. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Ahead } from './ahead';

describe('states that are known ahead', () => {
  it('count from their frame on, the newest of several; one that counts at once takes those before it along', () => {
    const step = fc.oneof(
      fc.record({ push: fc.constant(true), ahead: fc.option(fc.integer({ min: 1, max: 6 }), { nil: null }) }),
      fc.record({ push: fc.constant(false), ahead: fc.constant(null) }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        const ahead = new Ahead<number>();
        let frame = 0;
        let shown = -1;
        /** Plain: every state with its frame; what counts is the newest that is due. */
        let all: { state: number; from: number }[] = [];
        steps.forEach((s, state) => {
          if (!s.push) {
            frame += 1;
            shown = ahead.at(frame) ?? shown;
          } else {
            // Frames of macros never go back.
            const from = s.ahead === null ? null : Math.max(frame + s.ahead, ...all.map((a) => a.from));
            shown = ahead.push(state, from) ?? shown;
            all = [...all, { state, from: from ?? frame }];
            if (from === null) all = all.map((a) => ({ ...a, from: Math.min(a.from, frame) }));
          }
          expect(shown).toBe(all.findLast((a) => a.from <= frame)?.state ?? -1);
        });
      }),
    );
  });
});
