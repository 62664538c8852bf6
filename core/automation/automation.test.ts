/** Macros: how they run, are tried, recorded, checked and said. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Command } from '../commands/command';
import { type Desk } from '../desk/air';
import { execute } from '../desk/execute';
import { EMPTY_HISTORY } from '../desk/history';
import { perform, type Session } from '../desk/session';
import { showProblems } from '../desk/validate';
import { context, macroIn, upTo, withMacro } from '#tests/support/macros';
import { must, sampleDesk } from '#tests/support/sample-show';
import { asItIsNow, stateParts } from './as-now';
import { type RefusedStep } from './carry-out';
import { leftToChance } from './chance';
import { commandAct, untilAct, waitAct } from './create';
import { type StepAct } from './document';
import { looksOf, type PicturePlan } from '../picture/draw';
import { planFrame } from '../picture/plan';
import { dryRun } from './dry-run';
import { macroProblems } from './problems';
import { dueFrame } from './runs';
import { placeUnseen } from './seen';
import { standOf } from './stand';
import { actWords, sentence } from './words';

/** Starts a macro whose first step falls on a frame: pressed two frames before. */
const begin = (desk: Desk, macro: string, frame: number): Desk => must(desk, 'macro.run', { macro }, frame - 2);
const plain = ({ show, air }: Desk) => JSON.parse(JSON.stringify({ show, air: { ...air, automation: null } })) as object;

/** Acts that are done or refused, whatever the state. */
const someAct: fc.Arbitrary<StepAct> = fc.oneof(
  fc.constantFrom('a', 'b', 'bug').map((picture) => commandAct('picture.cut', { picture })),
  fc.constantFrom('a', 'b').map((picture) => commandAct('picture.setNext', { picture })),
  fc.constant(commandAct('picture.take')),
  fc.constantFrom('lane-1', 'lane-2', 'nowhere').map((lane) => commandAct('lane.toggle', { lane })),
  fc.integer({ min: -60, max: 0 }).map((db) => commandAct('sound.setFader', { channel: 'a', db })),
  fc.constant(commandAct('picture.fadeToBlack')),
);
/** What hands turn at a channel, a bus and a framing, beside what they do on air. */
const someTurn: fc.Arbitrary<StepAct> = fc.oneof(
  someAct,
  fc.constantFrom(-0.5, 0, 1).map((pan) => commandAct('sound.setChannel', { channels: ['a'], pan, delayMs: 40 * (pan + 1) })),
  fc.constantFrom(-6, 6).map((gainDb) => commandAct('sound.setBand', { channel: 'b', band: 2, gainDb })),
  fc.boolean().map((on) => commandAct('sound.setGate', { channel: 'a', on, thresholdDb: -30 })),
  fc.boolean().map((on) => commandAct('sound.setCompressor', { channel: 'a', on, ratio: 4 })),
  fc.constantFrom({ kind: 'card' }, { kind: 'black' }, null).map((over) => commandAct('screen.over', { outputs: ['foyer'], over })),
  fc
    .constantFrom({ kind: 'programme' }, { kind: 'picture', pictureId: 'b' })
    .map((shows) => commandAct('screen.set', { output: 'foyer', shows })),
  fc.constantFrom(1, 2, 3).map((zoom) => commandAct('framing.set', { framing: 'tight', zoom, mirror: zoom > 1 })),
);
const someStep = fc.oneof(
  { weight: 4, arbitrary: someAct },
  { weight: 1, arbitrary: fc.integer({ min: 0, max: 9 }).map((n) => waitAct(n, 'frames')) },
  { weight: 1, arbitrary: fc.constantFrom(untilAct('transition'), untilAct('lanes')) },
);
const someMacro = fc.array(someStep, { minLength: 1, maxLength: 14 });

describe('a macro that runs', () => {
  it('does each step on its frame, however late it is asked', () => {
    const acts = Array.from({ length: 500 }, (_, i) =>
      i % 5 === 4 ? waitAct(3, 'frames') : commandAct('sound.setFader', { channel: 'a', db: -i / 10 }),
    );
    const { desk, macro } = withMacro(sampleDesk(), acts);
    let now = begin(desk, macro, 100);
    const fader = () => now.show.sources.find((s) => s.id === 'a')?.sound.faderDb;
    for (let frame = 100; frame <= 400; frame += 1) {
      now = upTo(now, frame);
      expect(fader()).toBeCloseTo(-Math.min(498, Math.floor((frame - 100) / 3) * 5 + 3) / 10, 6);
    }
    expect(now.air.automation.runs).toEqual({});
    // All at once, long after: the same end.
    const late = upTo(begin(desk, macro, 100), 9000);
    expect(plain(late)).toEqual(plain(now));
  });

  it('comes to the same whenever the show is closed and opened again between', () => {
    fc.assert(
      fc.property(someMacro, fc.array(fc.integer({ min: 1, max: 40 }), { maxLength: 5 }), (acts, stops) => {
        const { desk, macro } = withMacro(sampleDesk(), acts, { onFailure: 'go-on' });
        const begun = begin(desk, macro, 10);
        let through = begun;
        for (let frame = 10; frame < 400; frame += 1) through = upTo(through, frame);
        let stopped = begun;
        let frame = 10;
        for (const gap of stops) {
          frame += gap;
          stopped = upTo(JSON.parse(JSON.stringify(stopped)) as Desk, frame);
        }
        return JSON.stringify(plain(upTo(stopped, 400))) === JSON.stringify(plain(through));
      }),
      { numRuns: 60 },
    );
  });

  it('stands still while it is paused, and waits for as long as was left', () => {
    const { desk, macro } = withMacro(sampleDesk(), [waitAct(10, 'frames'), commandAct('picture.cut', { picture: 'b' })]);
    let now = upTo(begin(desk, macro, 0), 4);
    now = must(now, 'run.pause', {}, 4);
    now = upTo(now, 500);
    expect(now.air.onAirId).not.toBe('b');
    now = must(now, 'run.resume', {}, 500);
    now = upTo(now, 505);
    expect(now.air.onAirId).not.toBe('b');
    expect(upTo(now, 506).air.onAirId).toBe('b');
    // Stopped, nothing more is done.
    expect(upTo(must(now, 'run.stop', {}, 505), 900).air.onAirId).not.toBe('b');
  });

  it('goes step by step, and waits for a press', () => {
    const cut = (picture: string) => commandAct('picture.cut', { picture });
    const { desk, macro } = withMacro(sampleDesk(), [untilAct('press'), cut('b'), cut('a'), cut('b')]);
    let now = upTo(begin(desk, macro, 0), 100);
    expect(Object.values(now.air.automation.runs)[0]?.index).toBe(0);
    now = must(now, 'run.pause', {}, 100);
    for (const [i, onAir] of ['a', 'b', 'a', 'b'].entries()) {
      now = upTo(must(now, 'run.step', {}, 110 + i), 110 + i);
      expect([i, now.air.onAirId]).toEqual([i, onAir]);
    }
    expect(now.air.automation.runs).toEqual({});
    const pressed = must(upTo(begin(desk, macro, 0), 7), 'run.go', {}, 7);
    expect(upTo(pressed, 7).air.onAirId).toBe('b');
  });

  it('waits for what runs: transitions, clocks, other macros, a time of day', () => {
    const desk = sampleDesk();
    const due = (act: StepAct, change: (d: Desk) => Desk): number | null => {
      const { desk: d, macro } = withMacro(change(desk), [act, commandAct('picture.take')]);
      const now = begin(d, macro, 10);
      return dueFrame(now, Object.values(now.air.automation.runs)[0]!);
    };
    const taken = (d: Desk) => must(must(d, 'picture.setNext', { picture: 'b' }), 'picture.take', {}, 5);
    expect(due(untilAct('transition'), taken)).toBe(5 + desk.show.transition.frames);
    expect(due(untilAct('transition'), (d) => d)).toBe(10);
    const clocked = (d: Desk) => must(must(d, 'clock.add', { name: 'Heat', kind: 'down', seconds: 4 }), 'clock.day', { millis: 1000 }, 0);
    const started = (d: Desk) => {
      const c = clocked(d);
      const id = c.show.graphics.clocks.at(-1)!.id;
      return { desk: must(c, 'clock.start', { clock: id }, 6), id };
    };
    const s = started(desk);
    expect(due(untilAct('clock', { clockId: s.id }), () => s.desk)).toBe(106);
    const stands = clocked(desk);
    expect(due(untilAct('clock', { clockId: stands.show.graphics.clocks.at(-1)!.id }), () => stands)).toBe(null);
    // The day began a second after midnight at frame 0: five seconds after it are frame 100.
    expect(due(untilAct('time', { time: 5 }), () => s.desk)).toBe(100);
    expect(due(untilAct('time', { time: 5 }), (d) => d)).toBe(null);
  });

  it('stops, goes on, or lets another run when a step is refused, and says which step it was', () => {
    const acts = [
      commandAct('sound.setFader', { channel: 'a', db: -3 }),
      commandAct('lane.show', { lane: 'gone' }),
      commandAct('picture.cut', { picture: 'b' }),
    ];
    const end = (change: Record<string, unknown>) => {
      const other = withMacro(sampleDesk(), [commandAct('sound.setFader', { channel: 'a', db: -9 })]);
      const { desk, macro } = withMacro(other.desk, acts, 'fallbackId' in change ? { ...change, fallbackId: other.macro } : change);
      const told: RefusedStep[] = [];
      const now = upTo(begin(desk, macro, 0), 20, told);
      return [now.show.sources.find((x) => x.id === 'a')?.sound.faderDb, now.air.onAirId === 'b', told.map((t) => t.step)];
    };
    expect(end({ onFailure: 'stop' })).toEqual([-3, false, [1]]);
    expect(end({ onFailure: 'go-on' })).toEqual([-3, true, [1]]);
    expect(end({ onFailure: 'fallback', fallbackId: '' })).toEqual([-9, false, [1]]);
  });

  it('does joined steps all or none', () => {
    const { desk, macro } = withMacro(
      sampleDesk(),
      [commandAct('picture.cut', { picture: 'b' }), commandAct('lane.show', { lane: 'gone' })],
      { onFailure: 'go-on' },
    );
    const steps = macroIn(desk, macro).steps;
    const joined = must(desk, 'step.set', { macro, steps: [steps[1]?.id], joined: true });
    expect(upTo(begin(desk, macro, 0), 5).air.onAirId).toBe('b');
    expect(upTo(begin(joined, macro, 0), 5).air.onAirId).not.toBe('b');
  });

  it('never runs itself: refused with the way, and stopped where that comes from outside', () => {
    const one = withMacro(sampleDesk(), [commandAct('picture.take')]);
    const two = withMacro(one.desk, [commandAct('macro.run', { macro: one.macro })]);
    const back = execute(
      two.desk,
      { type: 'step.add', args: { macro: one.macro, steps: [{ act: commandAct('macro.run', { macro: two.macro }) }] } },
      context(0),
    );
    expect(back.ok ? null : [back.error.code, back.error.message]).toEqual([
      'macro-circle',
      expect.stringContaining('Macro 1, which runs Macro 2, which runs Macro 1'),
    ]);
    const alone = execute(
      one.desk,
      { type: 'step.add', args: { macro: one.macro, steps: [{ act: commandAct('macro.run', { macro: one.macro }) }] } },
      context(0),
    );
    expect(alone.ok).toBe(false);
  });
});

describe('a macro that is tried', () => {
  it('comes to what it comes to on air, step by step', () => {
    fc.assert(
      fc.property(someMacro, (acts) => {
        const { desk, macro } = withMacro(sampleDesk(), acts, { onFailure: 'go-on' });
        const dry = dryRun(desk, macroIn(desk, macro), 8);
        let real = begin(desk, macro, 10);
        const told: RefusedStep[] = [];
        for (let frame = 10; frame < 500; frame += 1) real = upTo(real, frame, told);
        return (
          JSON.stringify(plain(dry.desk)) === JSON.stringify(plain(real)) &&
          dry.lines.filter((l) => l.refused !== null).length === told.length &&
          dry.lines.length === acts.length
        );
      }),
      { numRuns: 60 },
    );
  });

  it('shows what is on air after each step, lanes too, as it is once that rests', () => {
    const { desk, macro } = withMacro(must(sampleDesk(), 'picture.cut', { picture: 'a' }), [
      commandAct('picture.setNext', { picture: 'b' }),
      commandAct('picture.take'),
      commandAct('lane.showPicture', { lane: 'lane-1', picture: 'names' }),
      commandAct('lane.showPicture', { lane: 'lane-1', picture: 'names' }),
    ]);
    const { lines, desk: after } = dryRun(desk, macroIn(desk, macro), 0, true);
    const shown = lines.map(({ picture }) => picture && [picture.base.map((i) => i.sourceId), picture.mix, picture.lanes.length > 0]);
    expect(shown).toEqual([null, [['b'], null, false], [['b'], null, true], null]);
    // At rest it is the very picture of the mixer, but for the places that stand in for what is not drawn yet.
    const { programme } = planFrame(after.show, after.air, 400);
    const withoutSlots = (plan: PicturePlan) => looksOf(plan).replace(/"slot":"[^"]*"/g, '');
    const last = lines[2]!.picture!;
    expect(withoutSlots({ ...last, top: [] })).toBe(withoutSlots({ ...programme, top: [] }));
    expect(looksOf(last)).toMatch(/"slot":"dry\//);
    // Not asked for, they cost nothing.
    expect(dryRun(desk, macroIn(desk, macro), 0).lines.every((l) => l.picture === null)).toBe(true);
  });

  it('says what changes, what the audience sees, and what it leaves to chance', () => {
    const { desk, macro } = withMacro(sampleDesk(), [
      commandAct('picture.cut', { picture: 'b' }),
      untilAct('press'),
      commandAct('lane.showPicture', { lane: 'lane-1', picture: 'bug' }),
    ]);
    const found = macroIn(desk, macro);
    const [cut, press, lane] = dryRun(desk, found, 0).lines;
    expect(cut?.changes.join()).toMatch(/On air: .+ → /);
    expect([press?.open, lane?.changes.some((c) => c.startsWith('Lane'))]).toEqual([true, true]);
    const chance = leftToChance(desk, found, 0);
    expect(chance).not.toContain('On air');
    expect(chance).toContain('Black');
    // An output that it says nothing of may be covered, or show something else.
    const screened = must(desk, 'screen.add', { name: 'Foyer' });
    expect(leftToChance(screened, found, 0)).toEqual(expect.arrayContaining(['Output Foyer', 'Over Foyer']));
    // The same desk: nothing has been done to it.
    expect(desk.air.automation.runs).toEqual({});
  });
});

describe('as it is now', () => {
  it('sets everything that was chosen again, from whatever state, and is steps that can work', () => {
    const framed = execute(sampleDesk(), { type: 'framing.add', args: { source: 'a' } }, { frame: 0, newId: () => 'tight' });
    if (!framed.ok) throw new Error(framed.error.message);
    const screened = execute(framed.desk, { type: 'screen.add', args: { name: 'Foyer' } }, { frame: 0, newId: () => 'foyer' });
    if (!screened.ok) throw new Error(screened.error.message);
    const { desk } = screened;
    const parts = stateParts(desk).map((p) => p.id);
    fc.assert(
      fc.property(fc.array(someTurn, { maxLength: 12 }), fc.array(someTurn, { maxLength: 12 }), (before, after) => {
        const through = (d: Desk, acts: readonly StepAct[], from: number): Desk =>
          acts.reduce((now, act, i) => {
            const done = act.kind === 'command' ? execute(now, act, context(from + i * 40)) : null;
            return done?.ok ? done.desk : now;
          }, d);
        const wanted = through(desk, before, 0);
        const acts = asItIsNow(wanted, parts, 1000).map(({ type, args }) => commandAct(type, args));
        const { desk: disturbed, macro } = withMacro(through(wanted, after, 1000), acts);
        const problems = macroProblems(disturbed.show, macroIn(disturbed, macro));
        const told: RefusedStep[] = [];
        const end = upTo(begin(disturbed, macro, 3000), 3000, told);
        expect(told).toEqual([]);
        const [is, was] = [standOf(end, 4000), standOf(wanted, 4000)];
        expect(Object.fromEntries(is)).toEqual(Object.fromEntries(was));
        // What nobody touched is set too.
        expect(end.show.sources.map((s) => s.sound)).toEqual(wanted.show.sources.map((s) => s.sound));
        expect(end.show.framings).toEqual(wanted.show.framings);
        expect(end.show.screens).toEqual(wanted.show.screens);
        expect(end.air.screens).toEqual(wanted.air.screens);
        return problems.length === 0;
      }),
      { numRuns: 40 },
    );
  });
});

describe('a macro that is recorded', () => {
  const act = (session: Session, commands: Command[], frame: number, sent: object = {}): Session => {
    const done = perform(session, commands, context(frame), { at: frame * 40, ...sent });
    if (!done.ok) throw new Error(done.error.message);
    return done.session;
  };

  it('has what was done, from any hand, with the waits; what macros and the engine do is not in it', () => {
    let s: Session = { desk: sampleDesk(), history: EMPTY_HISTORY };
    s = act(s, [{ type: 'picture.setNext', args: { picture: 'b' } }], 0);
    s = act(s, [{ type: 'automation.record' }], 5);
    s = act(s, [{ type: 'picture.cut', args: { picture: 'b' } }], 10);
    for (let i = 0; i < 5; i += 1) s = act(s, [{ type: 'sound.setFader', args: { channel: 'a', db: -i } }], 20 + i, { gesture: 'one' });
    s = act(s, [{ type: 'picture.cut', args: { picture: 'a' } }], 49, { elsewhere: true });
    s = act(s, [{ type: 'clock.day', args: { millis: 0 } }], 50);
    s = act(s, [{ type: 'picture.cut', args: { picture: 'b' } }], 51, { byMacro: true });
    const stop = (args: object) =>
      act(s, [{ type: 'automation.stopRecording', args: { name: 'Kept', ...args } }], 60).desk.show.automation.macros[0]?.steps.map((x) =>
        sentence(actWords(s.desk.show, x.act)),
      );
    const said = stop({ waits: 'kept', elsewhere: true }) ?? [];
    expect(said.length).toBe(5);
    expect([said[1], said[2]?.endsWith('-4 dB'), said[3]]).toEqual(['Wait 14 frames', true, 'Wait 25 frames']);
    expect(stop({ waits: 'rounded', elsewhere: true })?.filter((w) => w.startsWith('Wait'))).toEqual(['Wait 0.5 s', 'Wait 1 s']);
    expect(stop({ waits: 'none', elsewhere: false })?.length).toBe(2);
  });

  it('has switches as what they came to: run again, it does the same from whatever state', () => {
    const ready = must(sampleDesk(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'b' } });
    let s: Session = { desk: ready, history: EMPTY_HISTORY };
    s = act(s, [{ type: 'automation.record' }], 0);
    s = act(s, [{ type: 'lane.toggle', args: { lane: 'lane-1' } }], 5);
    s = act(s, [{ type: 'sound.mute', args: { channel: 'a' } }], 6);
    s = act(s, [{ type: 'picture.fadeToBlack' }], 7);
    s = act(s, [{ type: 'automation.stopRecording', args: { waits: 'none', elsewhere: true } }], 60);
    expect(s.desk.show.automation.macros[0]?.steps.map((x) => x.act)).toMatchObject([
      { type: 'lane.show' },
      { type: 'sound.mute', args: { on: true } },
      { type: 'picture.fadeToBlack', args: { on: true } },
    ]);
  });

  it('does again what was done', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 12 }), someAct), { minLength: 1, maxLength: 12 }), (acts) => {
        const first = sampleDesk();
        let s: Session = { desk: must(first, 'automation.record', {}, 0), history: EMPTY_HISTORY };
        let frame = 10;
        for (const [wait, { kind, ...command }] of acts) {
          frame += wait;
          const done = perform(s, [command as Command], context(frame), { at: frame * 4000 });
          void kind;
          if (done.ok) s = done.session;
        }
        const begun = s.desk.air.automation.recording?.acts[0]?.frame;
        if (begun === undefined) return true;
        const kept = must(s.desk, 'automation.stopRecording', { waits: 'kept', elsewhere: true }, frame);
        const macro = kept.show.automation.macros[0];
        if (!macro) return false;
        const again: Desk = { show: { ...first.show, automation: { macros: [macro], triggers: [] } }, air: first.air };
        const end = upTo(begin(again, macro.id, begun), frame);
        return (
          JSON.stringify(end.air.lanes) === JSON.stringify(kept.air.lanes) &&
          end.air.onAirId === kept.air.onAirId &&
          JSON.stringify(end.air.black) === JSON.stringify(kept.air.black)
        );
      }),
      { numRuns: 50 },
    );
  });
});

describe('steps', () => {
  it('are swept over values, with waits, and things are replaced in them', () => {
    const { desk, macro } = withMacro(sampleDesk(), [commandAct('picture.cut', { picture: 'a' })]);
    const step = macroIn(desk, macro).steps[0]!.id;
    const swept = must(desk, 'step.sweep', { macro, step, argument: 'picture', values: ['a', 'b', 'bug'], wait: 2 });
    const said = () => macroIn(swept, macro).steps.map((s) => (s.act.kind === 'command' ? s.act.args.picture : s.act.kind));
    expect(said()).toEqual(['a', 'wait', 'b', 'wait', 'bug']);
    const all = macroIn(swept, macro).steps.map((s) => s.id);
    const replaced = must(swept, 'step.replace', { macro, steps: all, from: 'bug', to: 'b' });
    expect(macroIn(replaced, macro).steps.at(-1)?.act).toEqual(commandAct('picture.cut', { picture: 'b' }));
    const moved = must(swept, 'step.move', { macro, steps: [all[4], all[2]], index: 0 });
    expect(macroIn(moved, macro).steps.map((s) => s.id)).toEqual([all[2], all[4], all[0], all[1], all[3]]);
  });

  it('say what is wrong with them, and outlive what they name', () => {
    const desk = sampleDesk();
    const problems = (...acts: StepAct[]) => {
      const { desk: d, macro } = withMacro(desk, acts);
      return macroProblems(d.show, macroIn(d, macro)).map((p) => p.message);
    };
    expect(problems(commandAct('picture.cut', { picture: 'b' }), waitAct(3))).toEqual([]);
    expect(problems(commandAct('no.such'))[0]).toMatch(/There is no command "no.such"/);
    expect(problems(commandAct('picture.cut', { picture: 7 }))[0]).toMatch(/picture/);
    expect(problems(commandAct('picture.cut', { picture: 'gone' }))[0]).toMatch(/is gone/);
    expect(problems(commandAct('history.undo'))[0]).toMatch(/nothing that a macro can do/);
    expect(problems(untilAct('clock'))[0]).toMatch(/Choose the clock/);
    const [again] = problems(commandAct('lane.show', { lane: 'lane-1' }), commandAct('lane.hide', { lane: 'lane-1' }));
    expect(again).toMatch(/Step 2 sets the same again/);
    expect(problems(commandAct('lane.show', { lane: 'lane-1' }), waitAct(1), commandAct('lane.hide', { lane: 'lane-1' }))).toEqual([]);
    const { desk: d, macro } = withMacro(desk, [commandAct('picture.setNext', { picture: 'bug' })]);
    const gone = must(must(d, 'lane.setContent', { lane: 'lane-2', content: null }), 'source.remove', { source: 'bug' });
    expect(macroIn(gone, macro).steps.length).toBe(1);
    expect(macroProblems(gone.show, macroIn(gone, macro))[0]?.message).toMatch(/is gone/);
    expect(showProblems(JSON.parse(JSON.stringify(gone.show)))).toEqual([]);
  });
});

describe('macros made of a macro', () => {
  it('are one for each value of a step, named by it', () => {
    const { desk, macro } = withMacro(sampleDesk(), [waitAct(1), commandAct('picture.cut', { picture: 'a' })]);
    const swept = must(desk, 'macro.sweep', { macro, step: macroIn(desk, macro).steps[1]!.id, argument: 'picture', values: ['b', 'c'] });
    const made = swept.show.automation.macros.slice(-2);
    expect(made.map((m) => m.steps[1]?.act)).toMatchObject([{ args: { picture: 'b' } }, { args: { picture: 'c' } }]);
    expect(made[0]?.name).toContain(desk.show.sources.find((s) => s.id === 'b')!.name);
    expect(macroIn(swept, macro)).toEqual(macroIn(desk, macro));
  });
});

describe('a step that the audience would see', () => {
  it('has a place before what it alters was put on air', () => {
    let start = must(sampleDesk(), 'layout.add', { starter: 'two' });
    const layout = start.show.layouts[0]!;
    start = must(start, 'picture.cut', { picture: 'a' });
    const { desk, macro } = withMacro(start, [
      commandAct('picture.setNext', { picture: 'b' }),
      commandAct('picture.cut', { picture: layout.id }),
      commandAct('box.set', { layout: layout.id, boxes: [layout.boxes[0]!.id], content: { kind: 'source', id: 'c' } }),
    ]);
    const { lines } = dryRun(desk, macroIn(desk, macro), 0);
    const at = lines.findIndex((l) => l.seen);
    expect(at).toBe(2);
    expect(placeUnseen(macroIn(desk, macro), lines, at)).toBe(1);
    const moved = must(desk, 'step.move', { macro, steps: [lines[at]!.stepId], index: 1 });
    expect(dryRun(moved, macroIn(moved, macro), 0).lines.some((l) => l.seen)).toBe(false);
  });
});
