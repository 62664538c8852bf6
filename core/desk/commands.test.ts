import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { fieldsOf } from '../schema/fields';
import { type Desk } from './air';
import { execute } from './execute';
import { EMPTY_HISTORY, type History, redo, remember, undo } from './history';
import { COMMANDS } from './registry';

describe('commands', () => {
  it('are named domain.verb, once each, with every argument described', () => {
    expect(new Set(COMMANDS.map((c) => c.type)).size).toBe(COMMANDS.length);
    for (const { type, title, about, args } of COMMANDS) {
      expect(type).toMatch(/^[a-z]+\.[a-zA-Z]+$/);
      expect(title.length > 2 && about.length > 10).toBe(true);
      for (const field of fieldsOf(args)) expect(field.about.length).toBeGreaterThan(0);
    }
  });

  it.each([
    [{ type: 'no.such' }, 'unknown-command', 'type'],
    [{ type: 'picture.setNext' }, 'bad-argument', 'picture'],
    [{ type: 'picture.setNext', args: { picture: 'gone' } }, 'unknown-picture', 'picture'],
    [{ type: 'picture.setNext', args: { picture: 'a', extra: 1 } }, 'bad-argument', 'extra'],
    [{ type: 'picture.moveBar', args: { position: 2 } }, 'bad-argument', 'position'],
    [{ type: 'source.add', args: { name: 'x', settings: { kind: 'colour', colour: 'blue' } } }, 'bad-argument', 'settings.colour'],
    [{ type: 'source.add', args: { name: '', settings: { kind: 'colour', colour: '#000000' } } }, 'bad-argument', 'name'],
    [{ type: 'lane.setContent', args: { lane: 'lane-1', content: { kind: 'picture', id: 'gone' } } }, 'unknown-content', 'content.id'],
    // What no handler has looked for is looked for all the same.
    [{ type: 'audience.set', args: { lane: 'gone' } }, 'nothing-there', 'lane'],
    [{ type: 'audience.set', args: { graphic: 'lane-1' } }, 'nothing-there', 'graphic'],
  ])('refuses %j with code and field', (command, code, field) => {
    const outcome = execute(sampleDesk(), command, { frame: 0, newId: () => 'x' });
    expect(outcome).toMatchObject({ ok: false, error: { code, field } });
  });

  it('never throws and never changes anything on a refusal, whatever is sent', () => {
    const types = fc.constantFrom(...COMMANDS.map((c) => c.type));
    fc.assert(
      fc.property(types, fc.oneof(fc.object(), fc.anything()), (type, args) => {
        const desk = sampleDesk();
        const before = JSON.stringify(desk);
        execute(desk, { type, args: args as Record<string, unknown> }, { frame: 3, newId: () => 'x' });
        expect(JSON.stringify(desk)).toBe(before);
      }),
      { numRuns: 600 },
    );
  });
});

/** Runs commands as the host does. */
function runner() {
  let desk: Desk = sampleDesk();
  let history: History = EMPTY_HISTORY;
  return {
    get desk() {
      return desk;
    },
    get history() {
      return history;
    },
    send(type: string, args: Record<string, unknown>, at: number) {
      const outcome = attempt(desk, type, args);
      if (!outcome.ok) return false;
      const key = outcome.spec.mergeKey?.(args) ?? null;
      desk = outcome.desk;
      history = remember(history, outcome.spec.title, outcome.patches, outcome.inverse, key === null ? null : `${type} ${key}`, at);
      return true;
    },
    undo() {
      ({ desk, history } = undo(history, desk));
    },
    redo() {
      ({ desk, history } = redo(history, desk));
    },
  };
}

describe('undo and redo', () => {
  it('undoes edits of the document and leaves air alone', () => {
    const run = runner();
    run.send('source.edit', { source: 'a', name: 'Wide' }, 0);
    run.send('picture.cut', {}, 10);
    run.undo();
    expect(run.desk.show.sources[0]?.name).toBe('Camera a');
    expect(run.desk.air.onAirId).toBe('b');
    run.redo();
    expect(run.desk.show.sources[0]?.name).toBe('Wide');
  });

  it('makes one step of a fader’s travel, and two of two travels', () => {
    const run = runner();
    [-1, -2, -3].forEach((db, i) => run.send('sound.setFader', { channel: 'a', db }, i * 50));
    run.send('sound.setFader', { channel: 'a', db: -9 }, 5000);
    expect(run.history.past).toHaveLength(2);
    run.undo();
    expect(run.desk.show.sources[0]?.sound.faderDb).toBe(-3);
    run.undo();
    expect(run.desk.show.sources[0]?.sound.faderDb).toBe(0);
  });

  it('refuses to take what is on air away, and clears a Next that would dangle', () => {
    const run = runner();
    run.send('source.add', { name: 'Late', settings: { kind: 'colour', colour: '#123456' } }, 0);
    const id = run.desk.show.sources.at(-1)?.id ?? '';
    run.send('picture.setNext', { picture: id }, 1);
    run.send('picture.cut', {}, 2);
    expect(() => run.undo()).toThrow(/on air/);
    run.send('picture.cut', {}, 3);
    run.undo();
    expect(run.desk.air.nextId).toBeNull();
  });

  it('says when there is nothing left', () => {
    expect(() => runner().undo()).toThrow(/nothing to undo/);
    expect(() => runner().redo()).toThrow(/nothing to redo/);
  });

  it('goes all the way back and all the way forward through random edits', () => {
    const edit = fc.oneof(
      fc.record({
        type: fc.constant('source.edit'),
        args: fc.record({ source: fc.constantFrom('a', 'b'), name: fc.string({ minLength: 1, maxLength: 9 }) }),
      }),
      fc.record({ type: fc.constant('source.move'), args: fc.record({ source: fc.constantFrom('a', 'b', 'c'), index: fc.nat(6) }) }),
      fc.record({ type: fc.constant('graphic.add'), args: fc.record({ name: fc.string({ minLength: 1, maxLength: 9 }) }) }),
      fc.record({
        type: fc.constant('source.remove'),
        args: fc.record({ source: fc.constantFrom('c', 'clip'), force: fc.constant(true) }),
      }),
      fc.record({ type: fc.constant('picture.arm'), args: fc.record({ frames: fc.integer({ min: 1, max: 99 }) }) }),
    );
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 25 }), (edits) => {
        const run = runner();
        const start = JSON.stringify(run.desk.show);
        edits.forEach(({ type, args }, i) => run.send(type, args, i * 2000));
        const end = JSON.stringify(run.desk.show);
        const steps = run.history.past.length;
        for (let i = 0; i < steps; i += 1) run.undo();
        expect(JSON.stringify(run.desk.show)).toBe(start);
        for (let i = 0; i < steps; i += 1) run.redo();
        expect(JSON.stringify(run.desk.show)).toBe(end);
      }),
      { numRuns: 100 },
    );
  });

  it('a recording started and stopped leaves no trace in the document', () => {
    const desk = must(must(sampleDesk(), 'output.startRecording'), 'output.stopRecording');
    expect(desk.show).toEqual(sampleDesk().show);
  });
});
