/** Commands for the list of sources. References are by identity; numbers are pinned by the crew. */
import { CommandError, defineCommand } from '../commands/command';
import { checkNumber } from '../layout/edit';
import { requireSource } from './edit';
import { settle } from '../picture/mixer';
import { Colour, Flag, Nested, Ref, Text, Variant, Whole } from '../schema/fields';
import { Raster } from './raster';
import { Anyway, guardLoops } from '../sound/edit';
import { type Desk } from '../desk/air';
import { createSource } from '../desk/create';
import { settingsClass, type SourceSettings } from './source';
import { remove } from '../desk/remove';
import { usesOf } from '../desk/uses';

class AddArgs {
  @Text(80, 'name', { min: 1 }) name!: string;
  @Variant(settingsClass, 'what it is; fields depend on `kind`') settings!: SourceSettings;
  @Flag('feeds lanes and layouts only', { optional: true }) feedsOnly?: boolean;
  @Anyway() anyway?: boolean;
}
class SourceArg {
  @Ref('source', 'source') source!: string;
}
class EditArgs extends SourceArg {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @Colour('colour of its tile', { optional: true }) colour?: string;
  @Flag('feeds lanes and layouts only', { optional: true }) feedsOnly?: boolean;
  @Nested(() => Raster, 'pixels that it is planned to come with; null for none', { nullable: true, optional: true })
  expects?: Raster | null;
}
class SettingsArgs extends SourceArg {
  @Variant(settingsClass, 'what it is from now on') settings!: SourceSettings;
  @Anyway() anyway?: boolean;
}
class PinArgs extends SourceArg {
  @Whole(1, 99, 'number; null for none', { nullable: true }) number!: number | null;
}
class MoveArgs extends SourceArg {
  @Whole(0, 499, 'place in the list, from 0') index!: number;
}
class SetGroupArgs extends SourceArg {
  @Ref('group', 'group; null for none', { nullable: true }) group!: string | null;
}
class RemoveArgs extends SourceArg {
  @Flag('also take it out of Next, lanes, seats and boxes that hold it', { optional: true }) force?: boolean;
}
class ReportArgs extends SourceArg {
  @Text(300, 'why it gives no picture; empty when it does') cause!: string;
}
class AddGroupArgs {
  @Text(40, 'name', { min: 1 }) name!: string;
}
class GroupArg {
  @Ref('group', 'group') group!: string;
}
class EditGroupArgs extends GroupArg {
  @Text(40, 'name', { min: 1, optional: true }) name?: string;
  @Flag('folded away', { optional: true }) folded?: boolean;
}

function requireGroup(desk: Desk, id: string) {
  const group = desk.show.groups.find((g) => g.id === id);
  if (!group) throw new CommandError('unknown-group', `There is no group "${id}" in this show.`, 'group');
  return group;
}

function checkMedia(settings: SourceSettings): void {
  if (settings.kind === 'media' && settings.out !== null && settings.out <= settings.in) {
    throw new CommandError('empty-span', 'The out point must be later than the in point.', 'settings.out');
  }
}

/** @throws CommandError when another source is this deck already. */
function checkDeck({ show }: Desk, settings: SourceSettings, except?: string): void {
  if (settings.kind !== 'deck') return;
  const other = show.sources.find((s) => s.id !== except && s.settings.kind === 'deck' && s.settings.deck === settings.deck);
  if (other) throw new CommandError('twice', `${other.name} is Deck ${settings.deck} already.`, 'settings.deck');
}

export const sourceCommands = [
  defineCommand({
    type: 'source.add',
    title: 'Add a source',
    about: 'Adds a source at the end of the list, with the first free number. Returns its `id`.',
    args: AddArgs,
    run: (desk, { name, settings, feedsOnly, anyway }, { newId }) => {
      checkMedia(settings);
      checkDeck(desk, settings);
      if (desk.show.sources.length >= 500) throw new CommandError('too-many', 'A show holds at most 500 sources.');
      const source = createSource(desk.show, newId(), name, settings);
      if (feedsOnly) Object.assign(source, { feedsOnly, number: null });
      desk.show.sources.push(source);
      guardLoops(desk, anyway);
      return { id: source.id };
    },
  }),
  defineCommand({
    type: 'source.edit',
    title: 'Edit a source',
    about: 'Name, colour, whether it stands in the switching list, and the pixels that it is planned to come with.',
    args: EditArgs,
    mergeKey: ({ source }) => `source:${source}`,
    run: (desk, { source, ...change }) => {
      Object.assign(requireSource(desk, source), change);
    },
  }),
  defineCommand({
    type: 'source.setSettings',
    title: 'Change what a source is',
    about: 'Gives a source another device, file or picture; it keeps its identity, number and places.',
    args: SettingsArgs,
    run: (desk, { source, settings, anyway }) => {
      checkMedia(settings);
      checkDeck(desk, settings, source);
      if (settings.kind === 'deck' && desk.show.replay.angles.some((a) => a.pictureId === source)) {
        throw new CommandError('is-angle', 'This source is recorded as an angle: it cannot become a deck.', 'settings.kind');
      }
      requireSource(desk, source).settings = settings;
      if (desk.show.replay.settings.musicId === source && settings.kind !== 'media') desk.show.replay.settings.musicId = null;
      delete desk.air.players[source];
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'source.pin',
    title: 'Pin a number',
    about: 'Gives a source a number on keys. Refused when another wears it.',
    args: PinArgs,
    run: (desk, { source, number }) => {
      const target = requireSource(desk, source);
      checkNumber(desk, number, source);
      target.number = number;
    },
  }),
  defineCommand({
    type: 'source.move',
    title: 'Move a source in the list',
    about: 'Changes the order of the list. Numbers and references stay.',
    args: MoveArgs,
    run: (desk, { source, index }) => {
      const list = desk.show.sources;
      const from = list.indexOf(requireSource(desk, source));
      const [moved] = list.splice(from, 1);
      if (moved) list.splice(Math.min(index, list.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'source.setGroup',
    title: 'Put a source into a group',
    about: 'Lists a source under a group, or under none.',
    args: SetGroupArgs,
    run: (desk, { source, group }) => {
      if (group !== null) requireGroup(desk, group);
      requireSource(desk, source).groupId = group;
    },
  }),
  defineCommand({
    type: 'source.remove',
    title: 'Remove a source',
    about: 'Refused while it is used, naming the places; `force` frees Next, lanes, seats and boxes, but never what is on air.',
    args: RemoveArgs,
    run: (desk, { source: id, force }, { frame }) => {
      const source = requireSource(desk, id);
      settle(desk.air, frame);
      const uses = usesOf(desk.show, desk.air, 'source', id, frame);
      const blocking = force ? uses.filter((u) => u.onAir) : uses;
      if (blocking.length > 0) {
        const places = blocking.map((u) => u.place).join('; ');
        throw new CommandError('in-use', `${source.name} is in use: ${places}.`, 'source');
      }
      remove(desk, 'source', id);
    },
  }),
  defineCommand({
    type: 'source.report',
    fromEngine: true,
    title: 'Report the state of a source',
    about:
      'Sent by the engine when a source is lost, with the cause, and when it comes back (empty cause): a stinger that is lost dissolves.',
    args: ReportArgs,
    run: ({ air }, { source, cause }) => {
      if (cause === '') delete air.lost[source];
      else air.lost[source] = cause;
    },
  }),
  defineCommand({
    type: 'group.add',
    title: 'Add a group',
    about: 'Adds an empty group of sources. Returns its `id`.',
    args: AddGroupArgs,
    run: (desk, { name }, { newId }) => {
      const id = newId();
      desk.show.groups.push({ id, name, folded: false });
      return { id };
    },
  }),
  defineCommand({
    type: 'group.edit',
    title: 'Edit a group',
    about: 'Name of a group, and whether it is folded away.',
    args: EditGroupArgs,
    run: (desk, { group, ...change }) => {
      Object.assign(requireGroup(desk, group), change);
    },
  }),
  defineCommand({
    type: 'group.remove',
    title: 'Remove a group',
    about: 'Its sources stay, in no group.',
    args: GroupArg,
    run: (desk, { group: id }) => {
      requireGroup(desk, id);
      remove(desk, 'group', id);
    },
  }),
];
