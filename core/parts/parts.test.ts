/** Parts of a show: what goes along, a show of some parts alone, and parts that come into another show. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withEverything } from '#tests/support/everything';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { createWhen } from '../automation/create';
import { executeAll } from '../desk/execute';
import { createShow } from '../desk/create';
import { createAir } from '../desk/air';
import { readShow } from '../desk/migrate';
import { type Show } from '../desk/show';
import { showProblems } from '../desk/validate';
import { plainCopy } from '../schema/plain-copy';
import { bringing, type Brought, type Decision, isOnly, likeIn } from './bring';
import { bringCommands, changesAir, comingOf } from './coming';
import { type Part, partKey, partsOf } from './kinds';
import { neededBy } from './needs';
import { subsetOf } from './subset';

const FULL = withEverything().show;
const empty = (): Desk => {
  const show = createShow('empty', 'Empty', { width: 640, height: 360 }, { num: 25, den: 1 });
  return { show, air: createAir(show) };
};
const ids = () => {
  let n = 0;
  return () => `fresh-${(n += 1)}`;
};
const part = (show: Show, kind: Part['kind'], name: string) => partsOf(show).find((p) => p.kind === kind && p.name === name)!;
const decide = (...list: [Part, Decision][]) => new Map(list.map(([p, d]) => [partKey(p), d]));
/** The desk after parts have come in by their commands. */
const brought = (desk: Desk, what: Brought, withOutput = false): Desk =>
  bringCommands(what, withOutput).reduce((now, { type, args }) => must(now, type, args), desk);

/** Some of the parts of a show. */
const some = (show: Show) => fc.subarray(partsOf(show)).map((list) => new Set(list.map(partKey)));

describe('parts of a show', () => {
  it('are everything that goes by itself, once', () => {
    const parts = partsOf(FULL);
    expect(new Set(parts.map(partKey)).size).toBe(parts.length);
    expect(parts.map((p) => p.kind)).toEqual(
      expect.arrayContaining(['source', 'layout', 'graphic', 'macro', 'device', 'page', 'sheet', 'item']),
    );
  });

  it('take along what they name, and what that names, and say for whom', () => {
    const chosen = part(FULL, 'framing', FULL.framings[0]!.name);
    const needed = neededBy(FULL, new Set([partKey(chosen)]));
    expect(needed.map((n) => `${n.kind} ${n.id} for ${n.by}`)).toContain(`source a for ${chosen.name}`);
    // What is named by the arguments of a step, and by what stands within something else.
    let desk = must(sampleDesk(), 'macro.add', {
      name: 'M',
      steps: [{ act: { kind: 'command', type: 'picture.cut', args: { picture: 'b' } } }],
    });
    desk = must(desk, 'page.add', { name: 'P' });
    desk = must(desk, 'button.add', {
      page: desk.show.pages[0]!.id,
      act: { kind: 'command', type: 'macro.run', args: { macro: desk.show.automation.macros[0]!.id } },
    });
    const along = neededBy(desk.show, new Set([partKey(part(desk.show, 'page', 'P'))]));
    expect(along.map((n) => n.kind)).toEqual(['macro', 'source']);
    expect(neededBy(desk.show, new Set([partKey(part(desk.show, 'page', 'P'))]), new Set([partKey(along[0]!)])).map((n) => n.kind)).toEqual(
      ['macro'],
    );
  });

  it('alone are a sound show, whichever they are, with nothing else in it', () => {
    fc.assert(
      fc.property(some(FULL), fc.boolean(), (keep, output) => {
        const { show, lost } = subsetOf(FULL, keep, { output });
        expect(showProblems(show)).toEqual([]);
        expect(readShow(plainCopy(show))).toEqual(show);
        const left = new Set(partsOf(show).map(partKey));
        const away = new Set(lost.map(partKey));
        for (const p of partsOf(FULL))
          if (p.id !== 'programme') expect([p, left.has(partKey(p))]).toEqual([p, keep.has(partKey(p)) && !away.has(partKey(p))]);
        expect(show.output.stream.key === FULL.output.stream.key).toBe(output || FULL.output.stream.key === 'kites');
      }),
      { numRuns: 60 },
    );
  });
});

describe('parts that come into another show', () => {
  it('leave it sound, whichever they are and whatever is decided, and undo nothing of what is there', () => {
    fc.assert(
      fc.property(
        some(FULL),
        fc.infiniteStream(fc.integer({ min: 0, max: 3 })),
        fc.constantFrom('empty', 'sample', 'full'),
        (keep, dice, into) => {
          const desk = into === 'empty' ? empty() : into === 'sample' ? sampleDesk() : { ...withEverything() };
          const replacing = new Set<string>();
          const decisions = new Map<string, Decision>();
          for (const p of partsOf(FULL)) {
            if (!keep.has(partKey(p))) continue;
            const like = likeIn(desk.show, FULL, p);
            const die = dice.next().value as number;
            const key = like && partKey({ kind: p.kind, id: like.id });
            if (like === null || key === null || (die < 2 && !isOnly(FULL, p))) decisions.set(partKey(p), { as: 'new' });
            else if (die === 2 || replacing.has(key)) decisions.set(partKey(p), { as: 'use', id: like.id });
            else {
              replacing.add(key);
              decisions.set(partKey(p), { as: 'replace', id: like.id });
            }
          }
          const result = bringing(desk.show, FULL, decisions, ids());
          const before = partsOf(desk.show).map(partKey);
          const commands = bringCommands(result);
          if (commands.length === 0) return;
          const done = executeAll(desk, commands, { frame: 0, newId: ids() });
          // More than a show may have is refused in words; everything else comes in.
          if (!done.ok) return void expect(done.error.message).toMatch(/at most/);
          expect(showProblems(done.desk.show)).toEqual([]);
          const after = new Set(partsOf(done.desk.show).map(partKey));
          for (const key of before) expect([key, after.has(key)]).toEqual([key, true]);
          return void expect(after.size).toBe(
            before.length + result.things.filter(({ kind, value }) => !before.includes(partKey({ kind, id: value.id as string }))).length,
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  it('come with what stands in them, and name things of this show where these stand for those of the file', () => {
    let from = must(sampleDesk(), 'layout.add', { starter: 'two' });
    const layout = from.show.layouts[0]!;
    from = must(from, 'box.set', { layout: layout.id, boxes: [layout.boxes[0]!.id], content: { kind: 'source', id: 'a' } });
    from = must(from, 'macro.add', { name: 'M', steps: [{ act: { kind: 'command', type: 'picture.cut', args: { picture: 'a' } } }] });
    const into = must(empty(), 'source.add', { name: 'Shore', settings: { kind: 'colour', colour: '#102030' } });
    const shore = into.show.sources[0]!.id;
    const a = partsOf(from.show).find((p) => p.kind === 'source' && p.id === 'a')!;
    const after = brought(
      into,
      bringing(
        into.show,
        from.show,
        decide(
          [part(from.show, 'layout', layout.name), { as: 'new' }],
          [a, { as: 'use', id: shore }],
          [part(from.show, 'macro', 'M'), { as: 'new' }],
        ),
        ids(),
      ),
    );
    expect(after.show.sources).toHaveLength(1);
    expect(after.show.layouts[0]?.boxes[0]?.content).toEqual({ kind: 'source', id: shore });
    expect(after.show.automation.macros[0]?.steps[0]?.act).toMatchObject({ args: { picture: shore } });
    // Boxes keep their share of the picture.
    expect(after.show.layouts[0]!.boxes[0]!.rect.width).toBeCloseTo((layout.boxes[0]!.rect.width * 640) / from.show.raster.width, 0);
  });

  it('come beside what is there under another name and without a number that is taken, or in its place', () => {
    const desk = sampleDesk();
    const a = partsOf(desk.show).find((p) => p.kind === 'source' && p.id === 'a')!;
    const twice = brought(desk, bringing(desk.show, desk.show, decide([a, { as: 'new' }]), ids()));
    const [first, copy] = [twice.show.sources[0]!, twice.show.sources.at(-1)!];
    expect([copy.id, copy.name, copy.number]).toEqual(['fresh-1', `${first.name} 2`, null]);
    const changed = plainCopy(desk.show);
    changed.sources[0]!.colour = '#123456';
    const after = brought(desk, bringing(desk.show, changed, decide([a, { as: 'replace', id: 'b' }]), ids()));
    expect(after.show.sources.map((s) => s.id)).toEqual(desk.show.sources.map((s) => s.id));
    expect(after.show.sources[1]).toMatchObject({ id: 'b', colour: '#123456', name: `${first.name} 2` });
  });

  it('keep every digit where the picture is as large, and bring settings of recording that take what every show has', () => {
    let from = must(sampleDesk(), 'layout.add', { starter: 'two' });
    const box = from.show.layouts[0]!.boxes[0]!;
    from = must(from, 'box.set', { layout: from.show.layouts[0]!.id, boxes: [box.id], rect: { ...box.rect, x: 1 / 3 } });
    from = must(from, 'screen.add', { name: 'Foyer' });
    from = must(from, 'output.setRecording', { outputId: from.show.screens.outputs[0]!.id });
    const layout = part(from.show, 'layout', from.show.layouts[0]!.name);
    const after = brought(sampleDesk(), bringing(sampleDesk().show, from.show, decide([layout, { as: 'new' }]), ids()), true);
    expect(after.show.layouts[0]?.boxes[0]?.rect.x).toBe(1 / 3);
    expect([after.show.output.recording.outputId, after.show.screens.outputs]).toEqual(['programme', []]);
  });

  it('come as chosen: beside what is here; what they need is served by what is here, comes along, or stays out', () => {
    let from = must(sampleDesk(), 'framing.add', { source: 'a' });
    from = must(from, 'source.add', { name: 'Pier', settings: { kind: 'colour', colour: '#202020' } });
    const pier = from.show.sources.at(-1)!.id;
    from = must(from, 'macro.add', {
      name: 'M',
      steps: [
        { act: { kind: 'command', type: 'picture.cut', args: { picture: pier } } },
        { act: { kind: 'command', type: 'picture.cut', args: { picture: 'a' } } },
      ],
    });
    const chosen = new Set([partKey(part(from.show, 'macro', 'M')), 'source b']);
    const list = (without: string[] = []) =>
      Object.fromEntries(
        comingOf(from.show, sampleDesk().show, { chosen, without: new Set(without), decided: new Map() }).map((c) => [c.part.id, c.as]),
      );
    expect(list()).toMatchObject({ b: 'new', a: 'use', [pier]: 'new' });
    expect(list([`source ${pier}`])).toMatchObject({ b: 'new', a: 'use', [pier]: null });
    // Saved, nothing is here already.
    const saved = comingOf(from.show, null, { chosen, without: new Set(), decided: new Map() });
    expect(saved.map((c) => [c.like, c.as])).toEqual(saved.map(() => [null, 'new']));
    // What the audience sees asks to be held for, and only in its place.
    const on = must(sampleDesk(), 'picture.cut', { picture: 'b' });
    const seen = (as: 'new' | 'replace') =>
      changesAir(on, comingOf(from.show, on.show, { chosen, without: new Set(), decided: new Map([['source b', as]]) }));
    expect([seen('new'), seen('replace')]).toEqual([false, true]);
  });

  it('come at rest: triggers disarmed, devices off, and nothing allowed that was allowed elsewhere', () => {
    let from = must(sampleDesk(), 'device.add', { kind: 'tcp' });
    from = must(from, 'trigger.add', { when: createWhen('opens'), then: { kind: 'command', type: 'picture.take', args: {} } });
    const decisions = new Map(
      partsOf(from.show)
        .filter((p) => ['device', 'trigger'].includes(p.kind))
        .map((p) => [partKey(p), { as: 'new' } as Decision]),
    );
    const after = brought(empty(), bringing(empty().show, from.show, decisions, ids()));
    expect([after.show.devices[0]?.on, after.show.automation.triggers[0]?.armed]).toEqual([false, false]);
  });

  it('are refused as a whole when they are damaged, in words', () => {
    const desk = sampleDesk();
    const value = { ...plainCopy(desk.show.sources[0]!), id: 'x', number: null };
    const bring = (things: unknown[]) => attempt(desk, 'show.bring', { things, eyes: [], sends: [], overrides: [] });
    expect(bring([{ kind: 'source', value }]).ok).toBe(true);
    for (const [thing, words] of [
      [{ kind: 'source', value: { ...value, colour: 'red' } }, /colour must be/],
      [{ kind: 'source', value: { ...value, extra: 1 } }, /extra is not a known field/],
      [{ kind: 'source', value: { ...value, groupId: 'nowhere' } }, /no group has the id/],
      [{ kind: 'source', value: { ...value, number: desk.show.sources[1]!.number } }, /used twice/],
      [{ kind: 'source', value: { ...value, id: 'constructor' } }, /id must be/],
      [{ kind: 'source', value: {} }, /id is missing|name is missing/],
      [{ kind: 'device', value }, /must be/],
      [{ kind: 'angle', value: { pictureId: 'a' } }, /must be/],
    ] as const) {
      const done = bring([{ kind: 'source', value }, thing]);
      expect(done.ok ? '' : done.error.message).toMatch(words);
    }
  });
});
