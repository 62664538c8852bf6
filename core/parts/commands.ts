/** Commands that bring parts of another show in, whole, as a file has them. */
import { isDraft, original } from 'immer';
import { checkCircle, checkWaits } from '../automation/find';
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { ENTITIES, identityOf } from '../desk/entities';
import { picturesWithin } from '../desk/pictures';
import { remove } from '../desk/remove';
import { showProblems } from '../desk/validate';
import { Device, MOST_DEVICES } from '../devices/document';
import { EyePoint } from '../layout/document';
import { Delivery } from '../output/document';
import { Override } from '../picture/document';
import { check } from '../schema/check';
import { AnyObject, ListOf, Nested, OneOf } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { Send } from '../sound/document';
import { classOf, innerOf, PART_KINDS, type PartKind, valueOf } from './kinds';

/** Kinds that come by the command that anybody may send. */
const BROUGHT = PART_KINDS.filter((kind) => kind !== 'device');
/** Things that come at once. */
const MOST_THINGS = 3000;

class Thing {
  @OneOf(BROUGHT, 'what it is') kind!: PartKind;
  @AnyObject('all of it, as the show file has it') value!: Record<string, unknown>;
}
class BringArgs {
  @ListOf(() => Thing, MOST_THINGS, 'things: one whose identity this show has takes that one’s place') things!: Thing[];
  @ListOf(() => EyePoint, 1000, 'where the eyes are in sources that come') eyes!: EyePoint[];
  @ListOf(() => Send, 6000, 'crosspoints of channels and buses that come') sends!: Send[];
  @ListOf(() => Override, 200, 'transitions of their own of pictures that come') overrides!: Override[];
  @Nested(() => Delivery, 'settings of recording and stream; without it they stay as they are', { optional: true }) output?: Delivery;
}
class BringDevicesArgs {
  @ListOf(() => Device, MOST_DEVICES, 'devices: one whose identity this show has takes that one’s place') devices!: Device[];
}

/** What a thing is called in a refusal. */
const nameIn = (value: Record<string, unknown>): string => (typeof value.name === 'string' ? value.name : String(value.id)).slice(0, 60);

/**
 * Puts a whole thing into the list of its kind: in the place of the one of its identity, or at the end. @throws CommandError when it is
 * damaged
 */
function put(desk: Desk, kind: PartKind, raw: Record<string, unknown>, field: string): void {
  const value = plainCopy(raw);
  const [problem] = check(classOf(kind), value);
  if (problem)
    throw new CommandError('bad-value', `${nameIn(value)} cannot come in: ${problem.path} ${problem.message}.`, `${field}.${problem.path}`);
  const { show } = desk;
  const id = identityOf(kind, value);
  const before = valueOf(show, { kind, id });
  if (before) {
    // What stood in it alone is taken out of every place that names it.
    const now = new Set(innerOf(classOf(kind), value).map((inner) => `${inner.kind} ${identityOf(inner.kind, inner.value)}`));
    for (const inner of innerOf(classOf(kind), plainCopy(before))) {
      const innerId = identityOf(inner.kind, inner.value);
      if (!now.has(`${inner.kind} ${innerId}`)) remove(desk, inner.kind, innerId);
    }
  }
  const home = ENTITIES[kind].home?.(show, id);
  if (!home) return;
  const list = home.in[home.field] as Record<string, unknown>[];
  const at = list.findIndex((item) => identityOf(kind, item) === id);
  if (at === -1) list.push(value);
  else list[at] = value;
}

/** Things without identities take the place of those that tie the same together. */
const tied = <T>(list: readonly T[], coming: readonly T[], key: (item: T) => string): T[] => {
  const keys = new Set(coming.map(key));
  return [...list.filter((item) => !keys.has(key(item))), ...plainCopy(coming)];
};

/** @throws CommandError naming the first fault that the show did not have before */
function checkSound(desk: Desk): void {
  const { show } = desk;
  const after = showProblems(plainCopy(show));
  if (after.length > 0) {
    const known = new Set(showProblems(isDraft(show) ? original(show) : show).map((p) => `${p.path} ${p.message}`));
    const fault = after.find((p) => !known.has(`${p.path} ${p.message}`));
    if (fault) throw new CommandError('bad-value', `These parts do not fit into this show: ${fault.path} ${fault.message}.`, 'things');
  }
  for (const macro of show.automation.macros) {
    const { steps } = macro;
    if (new Set(steps.map((s) => s.id)).size !== steps.length)
      throw new CommandError('bad-value', `Two steps of ${macro.name} have the same identity.`, 'things');
    checkWaits(
      desk,
      steps.map((s) => s.act),
    );
    checkCircle(desk, macro);
  }
}

/** True when one of these is seen by the audience. */
function isSeen({ show, air }: Desk, ids: readonly string[]): boolean {
  const seen = picturesWithin(show, air.onAirId);
  for (const [lane, { picture }] of Object.entries(air.lanes)) {
    if (!picture) continue;
    seen.add(lane);
    for (const inner of picturesWithin(show, picture.id)) seen.add(inner);
  }
  return ids.some((id) => seen.has(id));
}

export const partCommands = [
  defineCommand({
    type: 'show.bring',
    unrecorded: true,
    title: 'Bring parts of another show in',
    about:
      'Whole things, as a show file has them: one whose identity this show has takes that one’s place. All of them, or none. Devices come by `device.bring`.',
    args: BringArgs,
    hold: (desk, { things }) =>
      isSeen(
        desk,
        things.map(({ value }) => String(value.id)),
      ),
    run: (desk, { things, eyes, sends, overrides, output }) => {
      things.forEach(({ kind, value }, i) => put(desk, kind, value, `things[${i}].value`));
      const { show } = desk;
      show.eyes = tied(show.eyes, eyes, (e) => e.pictureId);
      show.sound.sends = tied(show.sound.sends, sends, (s) => `${s.fromId} ${s.busId}`);
      show.overrides = tied(show.overrides, overrides, (o) => `${o.fromId} ${o.toId}`);
      if (output) show.output = plainCopy(output);
      checkSound(desk);
    },
  }),
  defineCommand({
    type: 'device.bring',
    atHost: true,
    unrecorded: true,
    title: 'Bring devices of another show in',
    about:
      'Whole devices with their messages, as a show file has them: one whose identity this show has takes that one’s place. All of them, or none.',
    args: BringDevicesArgs,
    run: (desk, { devices }) => {
      devices.forEach((device, i) => put(desk, 'device', device as unknown as Record<string, unknown>, `devices[${i}]`));
      checkSound(desk);
    },
  }),
];
