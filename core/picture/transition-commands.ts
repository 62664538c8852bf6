/** Commands for the armed transition, the ones kept by name, and those that pictures have of their own. */
import { CommandError, defineCommand } from '../commands/command';
import { Colour, Nested, Num, OneOf, Ref, Text, Whole } from '../schema/fields';
import { type Desk } from '../desk/air';
import { remove } from '../desk/remove';
import { requireOverlay } from '../layout/edit';
import { type Easing, EASINGS } from '../show/moves';
import {
  type Direction,
  DIRECTIONS,
  LIGHTS,
  Transition,
  TRANSITION_KINDS,
  type TransitionKind,
  WIPE_SHAPES,
  type WipeShape,
} from './document';
import { requirePicture } from './edit';
import { requireSource } from '../show/edit';

class ArmArgs {
  @OneOf(TRANSITION_KINDS, 'kind', { optional: true }) kind?: TransitionKind;
  @Whole(1, 1500, 'length in frames', { optional: true }) frames?: number;
  @OneOf(EASINGS, 'pace', { optional: true }) easing?: Easing;
  @OneOf(LIGHTS, 'dissolve in signal values or in linear light', { optional: true }) light?: Transition['light'];
  @Colour('colour of a dip', { optional: true }) dipColour?: string;
  @OneOf(WIPE_SHAPES, 'shape of a wipe', { optional: true }) shape?: WipeShape;
  @Num(-360, 360, 'direction of a wipe, degrees clockwise from rightwards', { optional: true }) angle?: number;
  @Num(0, 1, 'soft edge of a wipe, share of the travel', { optional: true }) softness?: number;
  @OneOf(DIRECTIONS, 'where push and slide travel to', { optional: true }) direction?: Direction;
  @Ref('source', 'still for a luma wipe', { optional: true, nullable: true }) imageId?: string | null;
  @Ref('overlay', 'clip, still or graphic for a stinger', { optional: true, nullable: true }) stingerId?: string | null;
  @Whole(0, 1500, 'frame of the stinger at which the picture changes', { optional: true }) cutFrame?: number;
}
class PlaceArgs {
  @Whole(1, 100, 'place in the list') place!: number;
}
class KeepArgs {
  @Text(40, 'name', { min: 1 }) name!: string;
}
class StoredArg {
  @Ref('transition', 'stored transition') transition!: string;
}
class EditArgs extends StoredArg {
  @Text(40, 'name', { min: 1, optional: true }) name?: string;
  @Nested(() => Transition, 'new settings', { optional: true }) settings?: Transition;
}
class MoveArgs extends StoredArg {
  @Whole(0, 99, 'place in the list, from 0; the first are at hand') index!: number;
}
class OverrideArgs {
  @Ref('picture', 'picture that comes') to!: string;
  @Ref('picture', 'picture that leaves; without it, any', { optional: true, nullable: true }) from?: string | null;
  @Nested(() => Transition, 'its settings; null takes the override away', { nullable: true }) settings!: Transition | null;
}

function stored(desk: Desk, id: string) {
  const found = desk.show.transitions.find((t) => t.id === id);
  if (!found) throw new CommandError('unknown-transition', `There is no stored transition "${id}".`, 'transition');
  return found;
}

/** @throws CommandError when its picture or its stinger is no source of the show. */
function checkTransition(desk: Desk, { imageId, stingerId }: Partial<Transition>, path: string): void {
  if (imageId) requireSource(desk, imageId, `${path}imageId`);
  if (stingerId) requireOverlay(desk, stingerId, `${path}stingerId`);
}

export const transitionCommands = [
  defineCommand({
    type: 'picture.arm',
    title: 'Arm a transition',
    about: 'Chooses the transition that the next take uses. A transition under way keeps its own settings.',
    args: ArmArgs,
    mergeKey: (args) => `arm:${Object.keys(args).join()}`,
    run: (desk, args) => {
      checkTransition(desk, args, '');
      Object.assign(desk.show.transition, args);
    },
  }),
  defineCommand({
    type: 'transition.arm',
    title: 'Arm a stored transition',
    says: 'Arm {transition}',
    about: 'Arms a transition that was kept by name.',
    args: StoredArg,
    run: (desk, { transition }) => {
      desk.show.transition = { ...stored(desk, transition).settings };
    },
  }),
  defineCommand({
    type: 'transition.armFavourite',
    title: 'Arm a transition at hand',
    about: 'Arms the transition in this place of the list.',
    args: PlaceArgs,
    run: ({ show }, { place }) => {
      const favourite = show.transitions[place - 1];
      if (!favourite) throw new CommandError('no-favourite', `No transition is kept in place ${place}. Keep one by name first.`, 'place');
      show.transition = { ...favourite.settings };
    },
  }),
  defineCommand({
    type: 'transition.keep',
    title: 'Keep the armed transition',
    about: 'Keeps the armed transition under a name. Returns its `id`.',
    args: KeepArgs,
    run: (desk, { name }, { newId }) => {
      if (desk.show.transitions.length >= 100) throw new CommandError('too-many', 'A show keeps at most 100 transitions.');
      const id = newId();
      desk.show.transitions.push({ id, name, settings: { ...desk.show.transition } });
      return { id };
    },
  }),
  defineCommand({
    type: 'transition.edit',
    title: 'Edit a stored transition',
    about: 'Gives a stored transition another name or other settings.',
    args: EditArgs,
    run: (desk, { transition, ...change }) => {
      if (change.settings) checkTransition(desk, change.settings, 'settings.');
      Object.assign(stored(desk, transition), change);
    },
  }),
  defineCommand({
    type: 'transition.move',
    title: 'Move a stored transition in the list',
    about: 'The first of the list are at hand.',
    args: MoveArgs,
    run: (desk, { transition, index }) => {
      const list = desk.show.transitions;
      const [moved] = list.splice(list.indexOf(stored(desk, transition)), 1);
      if (moved) list.splice(Math.min(index, list.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'transition.remove',
    title: 'Remove a stored transition',
    about: 'Takes a transition out of the list. What is armed stays armed.',
    args: StoredArg,
    run: (desk, { transition }) => {
      const { id } = stored(desk, transition);
      remove(desk, 'transition', id);
    },
  }),
  defineCommand({
    type: 'transition.override',
    title: 'Give a picture a transition of its own',
    about:
      'Uses a transition whatever is armed: whenever a picture comes, or only when it comes after a given one. A pair goes before a single picture.',
    args: OverrideArgs,
    run: (desk, { to, from = null, settings }, { newId }) => {
      requirePicture(desk, to, 'to');
      if (from !== null) requirePicture(desk, from, 'from');
      if (settings) checkTransition(desk, settings, 'settings.');
      const { show } = desk;
      show.overrides = show.overrides.filter((o) => o.toId !== to || o.fromId !== from);
      if (settings) show.overrides.push({ id: newId(), fromId: from, toId: to, settings });
    },
  }),
];
