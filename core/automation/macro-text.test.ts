/** Macros as text, and what they ask for. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Desk } from '../desk/air';
import { execute } from '../desk/execute';
import { must, sampleDesk } from '#tests/support/sample-show';
import { context, macroIn, upTo, withMacro } from '#tests/support/macros';
import { commandAct, untilAct, waitAct } from './create';
import { type StepAct } from './document';
import { dryRun } from './dry-run';
import { macroText, readMacroText } from './macro-text';
import { macroProblems } from './problems';
import { namesAt, valuesAt } from './text-choices';
import { actWords, sentence } from './words';

describe('what a macro asks for', () => {
  const asks = [
    { id: 'q1', name: 'Who', kind: 'picture', otherwise: '' },
    { id: 'q2', name: 'Level', kind: 'number', otherwise: '-12' },
  ];
  const made = () => {
    const { desk, macro } = withMacro(sampleDesk(), [
      { kind: 'command', type: 'picture.cut', args: { picture: { asked: 'Who' } } },
      { kind: 'command', type: 'sound.setFader', args: { channel: 'a', db: { asked: 'Level' } } },
    ]);
    return { macro, desk: must(desk, 'macro.setAsks', { macro, asks }) };
  };

  it('is put into its steps, by name or identity; what is missing or of another kind is refused', () => {
    const { desk, macro } = made();
    const name = desk.show.sources.find((s) => s.id === 'c')!.name;
    for (const who of ['c', name.toUpperCase()])
      expect(upTo(must(desk, 'macro.run', { macro, given: { Who: who } }, 8), 10).air.onAirId).toBe('c');
    for (const given of [undefined, {}, { Who: 'nobody' }, { Who: 'c', Level: 'loud' }, { Who: 'c', constructor: 1 }]) {
      const done = execute(desk, { type: 'macro.run', args: { macro, ...(given && { given }) } }, context(8));
      expect(done.ok ? '' : done.error.code).toBe('macro-asks');
    }
  });

  it('is checked, tried and said; another name reaches its steps', () => {
    const { desk, macro } = made();
    expect(
      macroProblems(desk.show, macroIn(desk, macro))
        .map((p) => p.message)
        .filter((m) => m.includes('ask')),
    ).toEqual([]);
    expect(sentence(actWords(desk.show, macroIn(desk, macro).steps[0]!.act))).toContain('‹Who›');
    expect(dryRun(desk, macroIn(desk, macro), 0).lines[0]?.refused).toBeNull();
    const renamed = must(desk, 'macro.setAsks', { macro, asks: [{ ...asks[0], name: 'Pilot' }] });
    expect(macroIn(renamed, macro).steps[0]?.act).toMatchObject({ args: { picture: { asked: 'Pilot' } } });
    expect(macroProblems(renamed.show, macroIn(renamed, macro)).map((p) => p.message)).toContain('The macro does not ask for “Level”.');
  });
});

describe('a macro as text', () => {
  const read = (desk: Desk, macro: string, text: string) =>
    readMacroText(desk.show, macroIn(desk, macro), JSON.parse(text), context(0).newId);

  it('says the same as its list of steps, for any macro', () => {
    const act: fc.Arbitrary<StepAct> = fc.oneof(
      fc.constantFrom('a', 'b', 'c').map((picture) => commandAct('picture.cut', { picture })),
      fc.constant(commandAct('picture.take')),
      fc
        .record({ channel: fc.constant('a'), db: fc.double({ min: -60, max: 10, noNaN: true }) })
        .map((args) => commandAct('sound.setFader', args)),
      fc
        .record({ amount: fc.integer({ min: 0, max: 500 }), unit: fc.constantFrom('frames' as const, 'seconds' as const) })
        .map(({ amount, unit }) => waitAct(amount, unit)),
      fc.constantFrom(untilAct('press'), untilAct('transition'), untilAct('time', { time: 36_000 }), untilAct('roll', { deck: 1 })),
    );
    const step = fc.record({
      act,
      on: fc.boolean(),
      joined: fc.boolean(),
      note: fc.string({ maxLength: 20 }),
      group: fc.constantFrom('', 'Start'),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), fc.string({ minLength: 1, maxLength: 20 }), (steps, name) => {
        const made = execute(sampleDesk(), { type: 'macro.add', args: { name, steps } }, context(0));
        if (!made.ok) throw new Error(made.error.message);
        const macro = macroIn(made.desk, String(made.result.id));
        const { words, faults } = read(made.desk, macro.id, macroText(macro));
        expect(faults).toEqual([]);
        expect(words).toEqual({
          asks: [],
          name: macro.name,
          note: macro.note,
          onFailure: macro.onFailure,
          steps: JSON.parse(JSON.stringify(macro.steps)),
        });
      }),
    );
  });

  it('says what the macro asks for, and is read with it: another name is the same thing, two of one name are a fault', () => {
    const made = withMacro(sampleDesk(), [commandAct('picture.cut', { picture: { asked: 'Who' } })]);
    const { macro } = made;
    const asks = [
      { id: 'q1', name: 'Who', kind: 'picture', otherwise: 'a' },
      { id: 'q2', name: 'Level', kind: 'number', otherwise: '' },
    ];
    const desk = must(made.desk, 'macro.setAsks', { macro, asks });
    const text = macroText(macroIn(desk, macro));
    expect(read(desk, macro, text).words?.asks).toEqual(asks);
    const renamed = read(desk, macro, text.replaceAll('"Who"', '"Pilot"')).words;
    expect(renamed?.asks.map((a) => [a.id, a.name])).toEqual([
      ['q1', 'Pilot'],
      ['q2', 'Level'],
    ]);
    expect(renamed?.steps[0]?.act).toMatchObject({ args: { picture: { asked: 'Pilot' } } });
    const faults = read(desk, macro, text.replace('"Level"', '"Who"').replace('"number"', '"smell"')).faults.map((f) => f.path.join('.'));
    expect(faults).toEqual(['asks.1.kind', 'asks.1.name']);
  });

  it('keeps who its steps are when one is put between them, and says every fault with its place', () => {
    const { desk, macro } = withMacro(sampleDesk(), [
      commandAct('picture.cut', { picture: 'a' }),
      commandAct('picture.cut', { picture: 'b' }),
    ]);
    const [first, second] = macroIn(desk, macro).steps.map((s) => s.id);
    const text = JSON.parse(macroText(macroIn(desk, macro))) as { steps: object[] };
    const between = { ...text, steps: [text.steps[0], { wait: 2 }, text.steps[1]] };
    expect(read(desk, macro, JSON.stringify(between)).words?.steps.map((s) => s.id)).toEqual([
      first,
      expect.stringMatching(/^id-/),
      second,
    ]);
    const wrong = {
      speed: 1,
      onFailure: 'maybe',
      steps: [
        { do: 'picture.cut', with: { picture: 'gone' } },
        { do: 'nothing.at.all' },
        { wait: 'long' },
        { until: 'tea' },
        {},
        7,
        { do: 'device.add', with: { kind: 'tcp' } },
        { do: 'picture.cut', constructor: 1 },
      ] as unknown[],
    };
    const { words, faults } = read(desk, macro, JSON.stringify(wrong));
    expect(words).toBeNull();
    expect(faults.map((f) => f.path.join('.'))).toEqual([
      'speed',
      'onFailure',
      'steps.0.with.picture',
      'steps.1.do',
      'steps.2.wait',
      'steps.3.until',
      'steps.4',
      'steps.5',
      'steps.6.do',
      'steps.7.constructor',
    ]);
    for (const odd of ['[]', '7', 'null', '{"steps":{}}']) expect(read(desk, macro, odd).faults.length).toBeGreaterThan(0);
  });

  it('is completed with names and things of the show', () => {
    const { desk, macro } = withMacro(sampleDesk(), []);
    const texts = (list: { text: string }[]) => list.map((c) => c.text);
    expect(texts(namesAt(['steps', 0, 'with'], 'picture.cut'))).toContain('picture');
    expect(texts(valuesAt(desk.show, macroIn(desk, macro), ['steps', 0, 'do'], null))).toContain('"picture.cut"');
    expect(texts(valuesAt(desk.show, macroIn(desk, macro), ['steps', 0, 'do'], null))).not.toContain('"device.add"');
    expect(texts(valuesAt(desk.show, macroIn(desk, macro), ['steps', 0, 'with', 'picture'], 'picture.cut'))).toContain('"c"');
    expect(valuesAt(desk.show, macroIn(desk, macro), ['steps', 0, 'with', 'constructor'], 'constructor')).toEqual([]);
  });
});
