/** Pages of buttons: places, what they say, when they are lit. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createWhen } from '../automation/create';
import { type Desk } from '../desk/air';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { buttonWords, commandOf } from './face';
import { isLit } from './lit';
import { buttonAt } from './find';

const cut = (picture: string) => ({ kind: 'command', type: 'picture.cut', args: { picture } });

function withButtons(...acts: object[]): { desk: Desk; page: string; ids: string[] } {
  let desk = must(sampleDesk(), 'page.add', { name: 'Show' });
  const page = desk.show.pages[0]!.id;
  for (const act of acts) desk = must(desk, 'button.add', { page, act });
  return { desk, page, ids: desk.show.pages[0]!.buttons.map((b) => b.id) };
}
const places = (desk: Desk) => desk.show.pages[0]!.buttons.map((b) => b.place);

describe('a page of buttons', () => {
  it('gives each the first place that is free, lets them change places, and keeps row and column when it grows', () => {
    const { desk, page, ids } = withButtons(cut('a'), cut('b'), cut('c'));
    const moved = must(desk, 'button.move', { button: ids[0], place: 2 });
    expect(places(moved)).toEqual([2, 1, 0]);
    const far = must(moved, 'button.move', { button: ids[1], place: 7 });
    expect(places(must(far, 'page.set', { page, columns: 8 }))).toEqual([2, 10, 0]);
    expect(attempt(far, 'page.set', { page, rows: 1 }).ok).toBe(false);
    expect(must(desk, 'button.remove', { button: ids[0] }).show.pages[0]?.buttons).toHaveLength(2);
    expect(buttonAt(desk.show, 1, 2)?.id).toBe(ids[1]);
    expect(buttonAt(desk.show, 2, 1)).toBeUndefined();
  });

  it('never has two buttons at one place, or one outside, whatever is done', () => {
    const act = fc.oneof(
      fc.record({ type: fc.constant('button.move'), button: fc.nat(5), place: fc.nat(79) }),
      fc.record({ type: fc.constant('page.set'), columns: fc.integer({ min: 1, max: 10 }), rows: fc.integer({ min: 1, max: 8 }) }),
      fc.record({ type: fc.constant('button.add'), place: fc.nat(79) }),
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 20 }), (acts) => {
        const made = withButtons(cut('a'), cut('b'), cut('c'));
        let { desk } = made;
        for (const { type, ...args } of acts) {
          const of =
            type === 'button.move'
              ? { ...args, button: desk.show.pages[0]!.buttons[(args as { button: number }).button]?.id ?? 'none' }
              : { ...args, page: made.page };
          const done = attempt(desk, type, of);
          if (done.ok) ({ desk } = done);
        }
        const [{ columns, rows }] = desk.show.pages as [(typeof desk.show.pages)[0]];
        expect(new Set(places(desk)).size).toBe(places(desk).length);
        expect(Math.max(...places(desk))).toBeLessThan(columns * rows);
      }),
    );
  });
});

describe('a button', () => {
  it('says what it does, sends that, and is lit by it or by a condition', () => {
    const made = withButtons(cut('b'), { kind: 'page', pageId: null });
    let { desk } = made;
    const { ids } = made;
    const button = (i: number) => desk.show.pages[0]!.buttons.find((b) => b.id === ids[i])!;
    const name = desk.show.sources.find((s) => s.id === 'b')!.name;
    expect(buttonWords(desk.show, button(0))).toContain(name);
    expect(commandOf(button(0))).toEqual({ type: 'picture.cut', args: { picture: 'b' } });
    expect(commandOf(button(1))).toBeNull();
    desk = must(desk, 'picture.cut', { picture: 'a' });
    expect(isLit(desk, button(0), 5)).toBe(false);
    desk = must(desk, 'picture.cut', { picture: 'b' });
    expect(isLit(desk, button(0), 5)).toBe(true);
    desk = must(desk, 'button.set', { button: ids[0], lit: { is: createWhen('next', { pictureId: 'c' }), so: true } });
    expect(isLit(desk, button(0), 5)).toBe(false);
    desk = must(desk, 'picture.setNext', { picture: 'c' });
    expect(isLit(desk, button(0), 5)).toBe(true);
    // What is on it or is opened may go: the button stays.
    desk = must(must(desk, 'page.add', { name: 'More' }), 'button.set', {
      button: ids[1],
      act: { kind: 'page', pageId: desk.show.pages[0]!.id },
    });
    expect(buttonWords(desk.show, button(1))).toBe('Show');
    const wrong = attempt(desk, 'button.set', { button: ids[1], act: { kind: 'page', pageId: 'gone' } });
    expect(wrong.ok).toBe(false);
  });

  it('that runs a macro is lit while it runs', () => {
    const made = must(sampleDesk(), 'macro.add', { name: 'Wait', steps: [{ act: { kind: 'wait', amount: 5, unit: 'seconds' } }] });
    const macro = made.show.automation.macros[0]!.id;
    const paged = must(made, 'page.add', {});
    const act = { kind: 'command', type: 'macro.run', args: { macro } };
    const desk = must(paged, 'button.add', { page: paged.show.pages[0]!.id, act });
    const button = desk.show.pages[0]!.buttons[0]!;
    expect(isLit(desk, button, 0)).toBe(false);
    expect(isLit(must(desk, 'macro.run', { macro }), button, 0)).toBe(true);
  });
});
