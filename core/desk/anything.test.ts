/** Every command there is, with arguments made from their own descriptions, in any order. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Dice, diceFrom } from '#tests/support/dice';
import { withEverything } from '#tests/support/everything';
import { happened } from '../automation/watch';
import { isLit } from '../buttons/lit';
import { orderTimes } from '../order/times';
import { walkThrough } from '../layout/walk-through';
import { onAirItems } from '../output/as-run';
import { planFrame } from '../picture/plan';
import { takeSummary } from '../picture/summary';
import { tallyOf } from '../picture/tally';
import { type Constructor, type FieldInfo, fieldsOf } from '../schema/fields';
import { ENTITY_KINDS } from '../schema/kinds';
import { ENTITIES, entitiesOf } from './entities';
import { planSound } from '../sound/plan';
import { hearsOf } from '../sound/routing/hears';
import { routingReport } from '../sound/routing/findings';
import { type Air, type Desk } from './air';
import { findPicture } from './pictures';
import { readShow } from './migrate';
import { showProblems } from './validate';
import { execute } from './execute';
import { EMPTY_HISTORY, remember, undo } from './history';
import { COMMANDS } from './registry';

const START = withEverything();

/** Every identity in the desk, so that references hit something now and then that they should not. */
const idsOf = ({ show }: Desk): string[] => ENTITY_KINDS.flatMap((kind) => ENTITIES[kind].list(show).map((e) => e.id));

const pick = <T>(dice: Dice, list: readonly T[]): T | undefined => list[Math.floor(dice() * list.length)];

/** What a reference may point at, as its own description says. */
const likely = ({ ref }: FieldInfo, { show }: Desk): readonly { id: string }[] => (ref ? ref.to.flatMap((to) => entitiesOf(show, to)) : []);

function valueOf(field: FieldInfo, dice: Dice, desk: Desk): unknown {
  if (field.nullable && dice() < 0.15) return null;
  if (field.nested) {
    const { of, list } = field.nested;
    return list ? Array.from({ length: Math.floor(dice() * 3) }, () => argsOf(of(), dice, desk)) : argsOf(of(), dice, desk);
  }
  if (field.variant) {
    const kinds = [
      'clean',
      'card',
      'black',
      'typed',
      'file',
      'colour',
      'still',
      'test',
      'chroma',
      'luma',
      'fill',
      'device',
      'seat',
      'tone',
      'command',
      'wait',
      'until',
      'tcp',
      'osc',
      'page',
      'encoder',
      'comments',
      'poll',
    ].filter((kind) => field.variant?.({ kind }));
    const kind = pick(dice, kinds);
    const of = field.variant({ kind });
    return of ? { ...argsOf(of, dice, desk), kind } : {};
  }
  if (field.type === 'object') return {};
  if (field.name === 'step' || field.name === 'steps') {
    const ids = desk.show.automation.macros[0]?.steps.map((s) => s.id) ?? [];
    return field.name === 'step' ? pick(dice, ids) : ids.filter(() => dice() < 0.5);
  }
  // Comments that have come in stand in air alone.
  if (field.name === 'comment' && !field.ref) return pick(dice, desk.air.audience.inbox)?.id ?? 'gone';
  const fixed = [...field.type.matchAll(/`([^`]+)`/g)].map((m) => m[1] as string);
  if (field.type.startsWith('list of ids') && field.ref) {
    const list = likely(field, desk);
    return [list, list].flatMap((all) => pick(dice, all)?.id ?? []);
  }
  if (field.name === 'choices') return ['one', 'two', 'three'].slice(0, 1 + Math.floor(dice() * 3));
  if (field.type.startsWith('list of')) return fixed.filter(() => dice() < 0.4);
  if (fixed.length > 0) return pick(dice, fixed);
  if (field.type.startsWith('id'))
    return dice() < 0.85 ? (pick(dice, likely(field, desk))?.id ?? pick(dice, idsOf(desk))) : pick(dice, [...idsOf(desk), 'gone']);
  if (field.type === 'true or false') return dice() < 0.5;
  if (field.name === 'column') return 'Name';
  if (field.type.startsWith('colour')) return pick(dice, ['#c02020', '#20a020', '#0d1517']);
  const range = /number (-?[\d.]+) to (-?[\d.]+)/.exec(field.type);
  if (range) {
    const [low, high] = [Number(range[1]), Math.min(Number(range[2]), 400)];
    const value = dice() < 0.2 ? low : low + dice() * (high - low);
    return field.type.startsWith('whole') ? Math.round(value) : value;
  }
  return `text ${Math.floor(dice() * 100)}`;
}

function argsOf(of: Constructor, dice: Dice, desk: Desk): Record<string, unknown> {
  const args: Record<string, unknown> = {};
  for (const field of fieldsOf(of)) if (!field.optional || dice() < 0.5) args[field.name] = valueOf(field, dice, desk);
  return args;
}

/** Everything that is worked out from a desk at a frame; none of it may fail. */
function lookAt({ show, air }: Desk, frame: number): void {
  for (const later of [0, 3, 200]) {
    const { programme, next } = planFrame(show, air, frame + later);
    for (const item of [...programme.base, ...next.base]) {
      expect(item.opacity >= 0 && item.opacity <= 1).toBe(true);
      expect([item.target.x, item.target.y, item.target.width, item.target.height].every(Number.isFinite)).toBe(true);
    }
    const { channels, buses } = planSound(show, air, frame + later);
    expect([...Object.values(buses), ...Object.values(channels)].every((g) => Number.isFinite(g) && g >= 0)).toBe(true);
    tallyOf(show, air, frame + later);
    takeSummary(show, air, frame + later);
    onAirItems(show, air, frame + later);
    orderTimes({ show, air }, frame + later);
    happened(null, { show, air }, frame + later, 6);
    for (const page of show.pages) for (const button of page.buttons) isLit({ show, air }, button, frame + later);
  }
  walkThrough(show, air, {});
  const { graph, findings } = routingReport(show);
  for (const { text } of findings) expect(text).not.toMatch(/undefined|NaN/);
  graph.nodes.forEach((n, i) => n.kind === 'listener' && hearsOf(graph, i));
}

const seeds = fc.integer({ min: 1, max: 2 ** 31 - 1 });

const onAirExists = ({ show, air }: { show: Desk['show']; air: Air }) => air.onAirId === null || findPicture(show, air.onAirId) !== null;

describe('any commands in any order', () => {
  it('are done or refused in words, and always leave a sound show with its picture on air', () => {
    const done = new Set<string>();
    fc.assert(
      fc.property(seeds, (seed) => {
        const dice = diceFrom(seed);
        let ids = 0;
        let desk = START;
        for (let i = 0; i < 25; i += 1) {
          const spec = pick(dice, COMMANDS);
          if (!spec) continue;
          const frame = 500 + i * 7;
          const args = argsOf(spec.args, dice, desk);
          const outcome = execute(desk, { type: spec.type, args }, { frame, newId: () => `n${seed}-${(ids += 1)}` });
          if (!outcome.ok) {
            expect(outcome.error.message.length).toBeGreaterThan(8);
            continue;
          }
          done.add(spec.type);
          desk = outcome.desk;
          expect(showProblems(JSON.parse(JSON.stringify(desk.show))), `${spec.type} ${JSON.stringify(args)}`).toEqual([]);
          expect(onAirExists(desk), spec.type).toBe(true);
          lookAt(desk, frame);
        }
      }),
      { numRuns: Math.ceil(COMMANDS.length / 7), seed: 20261123 },
    );
    // The run has really done most of what there is.
    expect(done.size).toBeGreaterThan(COMMANDS.length * 0.7);
  });

  it('are undone to the very show they began with', () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const dice = diceFrom(seed);
        let ids = 0;
        let desk = START;
        let history = EMPTY_HISTORY;
        for (let i = 0; i < 12; i += 1) {
          const spec = pick(
            dice,
            COMMANDS.filter((c) => !/^(picture\.(cut|take|moveBar|setNext)|preset\.recall|lane\.(show|toggle))/.test(c.type)),
          );
          if (!spec) continue;
          const outcome = execute(
            desk,
            { type: spec.type, args: argsOf(spec.args, dice, desk) },
            { frame: 500 + i, newId: () => `u${seed}-${(ids += 1)}` },
          );
          if (!outcome.ok) continue;
          desk = outcome.desk;
          history = remember(history, spec.type, outcome.patches, outcome.inverse, null, i * 5000);
        }
        while (history.past.length > 0) ({ history, desk } = undo(history, desk, true));
        expect(desk.show).toEqual(START.show);
        expect(readShow(JSON.parse(JSON.stringify(desk.show)))).toEqual(START.show);
      }),
      { numRuns: 55, seed: 7 },
    );
  });
});
