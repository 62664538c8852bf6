/** Commands for framings: ways of using a source. */
import { CommandError, defineCommand } from '../commands/command';
import { requireSource } from '../show/edit';
import { Flag, Nested, Num, Ref, Text, Variant, Whole } from '../schema/fields';
import { createFraming } from './document';
import { Crop, Grade, type Key, keyClass, MOST_ZOOM } from './look';
import { remove } from '../desk/remove';
import { usesOf } from '../desk/uses';
import { checkCrop, checkKey, checkNumber, framingOf } from './edit';

class AddArgs {
  @Ref('source', 'source') source!: string;
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
}
class FramingArg {
  @Ref('framing', 'framing') framing!: string;
}
class SetArgs extends FramingArg {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, 99, 'number on keys; null for none', { optional: true, nullable: true }) number?: number | null;
  @Nested(() => Crop, 'cut away on four sides', { optional: true }) crop?: Crop;
  @Num(1, MOST_ZOOM, 'zoom', { optional: true }) zoom?: number;
  @Num(-1, 1, 'part shown, −1 left to 1 right', { optional: true }) panX?: number;
  @Num(-1, 1, 'part shown, −1 top to 1 bottom', { optional: true }) panY?: number;
  @Num(0.1, 10, 'true proportions, width by height; null for as it comes', { optional: true, nullable: true }) aspect?: number | null;
  @Flag('mirrored left to right', { optional: true }) mirror?: boolean;
  @Nested(() => Grade, 'colour correction', { optional: true, nullable: true }) grade?: Grade | null;
  @Variant(keyClass, 'key', { optional: true, nullable: true }) key?: Key | null;
}

export const framingCommands = [
  defineCommand({
    type: 'framing.add',
    title: 'Add a framing',
    about: 'Adds a framing of a source, as it comes at first. Returns its `id`.',
    args: AddArgs,
    run: (desk, { source: id, name }, { newId }) => {
      const { show } = desk;
      const source = requireSource(desk, id);
      if (show.framings.length >= 500) throw new CommandError('too-many', 'A show holds at most 500 framings.');
      const count = show.framings.filter((f) => f.sourceId === id).length;
      const framing = createFraming(newId(), name ?? `${source.name.slice(0, 60)}, framing ${count + 1}`, id);
      show.framings.push(framing);
      return { id: framing.id };
    },
  }),
  defineCommand({
    type: 'framing.set',
    title: 'Set a framing',
    about: 'Crop, zoom, proportions, mirror, colour correction and key of a framing; seen at once wherever it is used.',
    args: SetArgs,
    mergeKey: ({ framing, ...change }) => `framing:${framing}:${Object.keys(change).join()}`,
    run: (desk, { framing: id, ...change }) => {
      const framing = framingOf(desk, id);
      if (change.crop) checkCrop(change.crop, framing.name);
      checkKey(desk, change.key);
      checkNumber(desk, change.number, id);
      Object.assign(framing, change);
    },
  }),
  defineCommand({
    type: 'framing.remove',
    title: 'Remove a framing',
    about: 'Refused while it is used, naming the places.',
    args: FramingArg,
    run: (desk, { framing: id }, { frame }) => {
      const framing = framingOf(desk, id);
      const uses = usesOf(desk.show, desk.air, 'framing', id, frame);
      if (uses.length > 0)
        throw new CommandError('in-use', `${framing.name} is in use: ${uses.map((u) => u.place).join('; ')}.`, 'framing');
      remove(desk, 'framing', id);
    },
  }),
];
