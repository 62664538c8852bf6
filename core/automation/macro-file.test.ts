/** Macros as files: out of one show, into another. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Desk } from '../desk/air';
import { execute } from '../desk/execute';
import { showProblems } from '../desk/validate';
import { must, sampleDesk } from '#tests/support/sample-show';
import { commandAct, untilAct, waitAct } from './create';
import { bringCommands } from '../parts/coming';
import { type Macro, type StepAct } from './document';
import { type Decision, MacroFileError, macrosFor, missingOf, readMacroFile, writeMacroFile } from './macro-file';
import { macroProblems } from './problems';

const add = (desk: Desk, name: string, acts: readonly StepAct[]): Desk =>
  must(desk, 'macro.add', { name, steps: acts.map((act) => ({ act })) });
const idOf = (desk: Desk, name: string): string => desk.show.automation.macros.find((m) => m.name === name)?.id ?? '';

/** A show with two macros, one of which runs the other. */
function full(): Desk {
  const desk = add(sampleDesk(), 'Opening', [
    commandAct('picture.cut', { picture: 'b' }),
    waitAct(2),
    commandAct('lane.show', { lane: 'lane-2' }),
  ]);
  return add(desk, 'Evening', [
    commandAct('macro.run', { macro: idOf(desk, 'Opening') }),
    untilAct('macro', { macroId: idOf(desk, 'Opening') }),
  ]);
}

const bringArgs = (macros: readonly Macro[]) =>
  bringCommands({ things: macros.map((value) => ({ kind: 'macro', value: { ...value } })) })[0]!.args!;
const bring = (desk: Desk, text: string, decisions = new Map<string, Decision>(), places = new Map<string, string | null>()): Desk => {
  let ids = 0;
  const macros = macrosFor(desk.show, readMacroFile(text), decisions, places, () => `made-${(ids += 1)}`);
  return must(desk, 'show.bring', bringArgs(macros));
};

describe('a file of macros', () => {
  it('comes into another show with identities of its own, its macros still running each other', () => {
    const from = full();
    const text = writeMacroFile(
      from.show,
      from.show.automation.macros.map((m) => m.id),
    );
    const into = bring(sampleDesk(), text);
    const [opening, evening] = into.show.automation.macros;
    expect([opening?.name, evening?.name, opening?.id === idOf(from, 'Opening')]).toEqual(['Opening', 'Evening', false]);
    expect(evening?.steps[0]?.act).toEqual(commandAct('macro.run', { macro: opening?.id }));
    expect(evening?.steps[1]?.act).toMatchObject({ macroId: opening?.id });
    expect(into.show.automation.macros.flatMap((m) => macroProblems(into.show, m))).toEqual([]);
    expect(showProblems(JSON.parse(JSON.stringify(into.show)))).toEqual([]);
  });

  it('tells what this show lacks, finds what has the same name, and takes others in its place or leaves the steps out', () => {
    const from = must(full(), 'source.add', { name: 'Pier camera', settings: { kind: 'colour', colour: '#202020' } });
    const pier = from.show.sources.at(-1)!.id;
    const desk = add(from, 'Pier', [commandAct('picture.setNext', { picture: pier }), commandAct('picture.take')]);
    const text = writeMacroFile(desk.show, [idOf(desk, 'Pier')]);
    const file = readMacroFile(text);
    const id = file.macros[0]?.steps[0]?.act.kind === 'command' ? pier : '';
    expect(missingOf(sampleDesk().show, file)).toEqual([{ id, to: 'picture', name: 'Pier camera', like: null }]);
    const named = must(sampleDesk(), 'source.add', { name: 'Pier camera', settings: { kind: 'colour', colour: '#202020' } });
    const renamed = readMacroFile(text.replaceAll(pier, 'elsewhere'));
    expect(missingOf(named.show, renamed)[0]?.like).toBe(named.show.sources.at(-1)?.id);
    const taken = bring(sampleDesk(), text, new Map(), new Map([[pier, 'b']]));
    expect(taken.show.automation.macros[0]?.steps.map((s) => s.act)).toEqual([
      commandAct('picture.setNext', { picture: 'b' }),
      commandAct('picture.take'),
    ]);
    const left = bring(sampleDesk(), text, new Map(), new Map([[pier, null]]));
    expect(left.show.automation.macros[0]?.steps.map((s) => s.act)).toEqual([commandAct('picture.take')]);
  });

  it('replaces a macro of the same name where that is wanted, or leaves it: and all of it is one step', () => {
    const from = full();
    const text = writeMacroFile(from.show, [idOf(from, 'Opening')]);
    const changed = must(from, 'step.remove', { macro: idOf(from, 'Opening'), steps: [from.show.automation.macros[0]?.steps[0]?.id] });
    const opening = idOf(from, 'Opening');
    const back = bring(changed, text, new Map([[opening, { kind: 'replace', id: opening }]]));
    expect(back.show.automation.macros.map((m) => [m.name, m.steps.length])).toEqual([
      ['Opening', 3],
      ['Evening', 2],
    ]);
    expect(bring(changed, text, new Map([[opening, { kind: 'new' }]])).show.automation.macros.length).toBe(3);
  });

  it('is refused in words when it is damaged, too new, or names what is no command; then nothing changes', () => {
    const refused = (text: string, why: RegExp) => {
      expect(() => readMacroFile(text)).toThrow(MacroFileError);
      expect(() => readMacroFile(text)).toThrow(why);
    };
    const text = writeMacroFile(full().show, [idOf(full(), 'x'), ...full().show.automation.macros.map((m) => m.id)]);
    const good = full();
    const whole = writeMacroFile(
      good.show,
      good.show.automation.macros.map((m) => m.id),
    );
    refused(text.slice(0, 40), /no JSON, or cut off/);
    refused('{"name":"x"}', /format mark is missing/);
    refused(whole.replace('"version": 1', '"version": 9'), /reads up to 1/);
    refused(whole.replace('"kind": "wait"', '"kind": "constructor"'), /macros\[0\]/);
    refused('['.repeat(100_000), /no JSON/);
    refused('{"format":"bivoca-macros","version":1,"macros":[]}', /no macros/);
    // An unknown command is no fault of the file: the step says so, and does nothing.
    const odd = bring(sampleDesk(), whole.replace('picture.cut', 'picture.vanish'));
    expect(macroProblems(odd.show, odd.show.automation.macros[0]!)[0]?.message).toMatch(/no command "picture.vanish"/);
    const circle = readMacroFile(whole);
    const [one, two] = circle.macros;
    if (one && two) one.steps.push({ ...two.steps[0]!, id: 'again', act: commandAct('macro.run', { macro: two.id }) });
    let ids = 0;
    const macros = macrosFor(sampleDesk().show, circle, new Map(), new Map(), () => `m${(ids += 1)}`);
    const done = execute(sampleDesk(), { type: 'show.bring', args: bringArgs(macros) }, { frame: 0, newId: () => 'x' });
    expect(done.ok ? '' : done.error.code).toBe('macro-circle');
  });

  it('never throws anything else, whatever is in it', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 5 }), fc.jsonValue({ maxDepth: 4 }), (macros, named) => {
        try {
          readMacroFile(JSON.stringify({ format: 'bivoca-macros', version: 1, macros: [macros], named }));
        } catch (error) {
          if (!(error instanceof MacroFileError)) throw error;
        }
      }),
    );
  });
});
