/** Copies of a show over a line that loses, doubles and mixes up what it carries. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { type Copy, followed } from './copy';
import { type Change, type Snapshot } from './messages';
import { slimPatches } from './slim';

/** A host that tells every change. */
class Host {
  desk: Desk = sampleDesk();
  revision = 0;

  snapshot = (): Snapshot => ({ kind: 'state', revision: this.revision, ...this.desk, frame: this.revision, status: {} });

  /** Does something; null when it was refused. */
  act(type: string, args: Record<string, unknown>): Change | null {
    const outcome = attempt(this.desk, type, args, this.revision);
    if (!outcome.ok || outcome.patches.length === 0) return null;
    const patches = slimPatches(this.desk, outcome.desk, outcome.patches);
    this.desk = outcome.desk;
    this.revision += 1;
    return { kind: 'patches', revision: this.revision, frame: this.revision, patches };
  }
}

const act = fc.oneof(
  fc.record({ type: fc.constantFrom('picture.cut', 'picture.setNext'), args: fc.record({ picture: fc.constantFrom('a', 'b', 'c') }) }),
  fc.record({
    type: fc.constant('source.edit'),
    args: fc.record({ source: fc.constantFrom('a', 'b'), name: fc.string({ minLength: 1, maxLength: 5 }) }),
  }),
  fc.record({ type: fc.constant('graphic.add'), args: fc.record({ name: fc.string({ minLength: 1, maxLength: 9 }) }) }),
  fc.record({ type: fc.constant('source.move'), args: fc.record({ source: fc.constantFrom('a', 'b', 'c'), index: fc.nat(4) }) }),
);

/** What the line does with a message. */
const fate = fc.constantFrom('comes', 'comes', 'comes', 'lost', 'twice', 'late', 'joins');

describe('a copy of a show', () => {
  it('is that of the host in the end, whatever was lost, doubled or mixed up, and whenever somebody joins', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ act, fate }), { maxLength: 40 }), (steps) => {
        const host = new Host();
        /** Every state the host has had, by revision: a copy must always be one of them. */
        const states = [JSON.stringify(host.desk)];
        const copies: { copy: Copy | null; late: (Snapshot | Change)[] }[] = [{ copy: null, late: [] }];
        const take = (one: (typeof copies)[0], message: Snapshot | Change) => {
          const next = followed(one.copy, JSON.parse(JSON.stringify(message)) as Snapshot | Change);
          one.copy = next.copy;
          if (one.copy) expect(JSON.stringify({ show: one.copy.show, air: one.copy.air })).toBe(states[one.copy.revision]);
          return next.missed;
        };
        for (const step of steps) {
          const message = host.act(step.act.type, step.act.args);
          if (message) states.push(JSON.stringify(host.desk));
          if (step.fate === 'joins') copies.push({ copy: null, late: [] });
          for (const one of copies) {
            if (!message || step.fate === 'lost') continue;
            if (step.fate === 'late') {
              one.late.push(message);
              continue;
            }
            // Who has missed something asks, and the answer may be lost or late too.
            if (take(one, message) && step.fate !== 'joins') one.late.push(host.snapshot());
            if (step.fate === 'twice') take(one, message);
            for (const old of one.late.splice(0).reverse()) take(one, old);
          }
        }
        const last = host.act('source.edit', { source: 'c', name: `End ${steps.length}` }) as Change;
        states.push(JSON.stringify(host.desk));
        for (const one of copies) {
          if (take(one, last)) take(one, host.snapshot());
          expect(one.copy?.revision).toBe(host.revision);
        }
      }),
      { numRuns: 150 },
    );
  });
});
