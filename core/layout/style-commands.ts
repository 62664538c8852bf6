/** Commands for styles. */
import { remove } from '../desk/remove';
import { CommandError, defineCommand } from '../commands/command';
import { Nested, Ref, Refs, SomeOf, Text } from '../schema/fields';
import { type Box, BoxLook, MOST_BOXES, STYLE_PROPERTIES, type StyleProperty, MOST_TIES } from './document';
import { boxesOf, boxOf, checkCrop, checkKey, framingOf, layoutOf, styleOf } from './edit';
import { effectiveBox, keepWithout, placesOfStyle } from './styles';

class StoreArgs {
  @Ref('layout', 'layout') layout!: string;
  @Ref('box', 'box whose values are stored') box!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @SomeOf(STYLE_PROPERTIES, 'which properties it holds') properties!: StyleProperty[];
}
class StyleArg {
  @Ref('style', 'style') style!: string;
}
class EditArgs extends StyleArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @SomeOf(STYLE_PROPERTIES, 'which properties it holds', { optional: true }) properties?: StyleProperty[];
  @Nested(() => BoxLook, 'their values', { optional: true }) look?: BoxLook;
  @Refs('framing', MOST_TIES, 'framings it is tied to: boxes that show one of them follow', { optional: true }) framingIds?: string[];
}
class OverwriteArgs extends StyleArg {
  @Ref('layout', 'layout') layout!: string;
  @Ref('box', 'box whose values are taken') box!: string;
}
class ApplyArgs {
  @Ref('style', 'style; null lets the boxes go, as they look now', { nullable: true }) style!: string | null;
  @Ref('layout', 'layout') layout!: string;
  @Refs('box', MOST_BOXES, 'boxes') boxes!: string[];
}
class ReturnArgs {
  @Ref('layout', 'layout') layout!: string;
  @Refs('box', MOST_BOXES, 'boxes') boxes!: string[];
  @SomeOf(STYLE_PROPERTIES, 'properties that follow the style again; without it, all', { optional: true }) properties?: StyleProperty[];
}

const lookOf = ({ rect, crop, fit, zoom, panX, panY, rotation, radius, border, shadow, opacity, key }: Box): BoxLook => ({
  rect: { ...rect },
  crop: { ...crop },
  fit,
  zoom,
  panX,
  panY,
  rotation,
  radius,
  border: { ...border },
  shadow: { ...shadow },
  opacity,
  key: key && { ...key },
});

const someOf = (properties: readonly StyleProperty[]) => {
  if (properties.length === 0) throw new CommandError('empty-style', 'Choose at least one property for the style to hold.', 'properties');
  return [...new Set(properties)];
};

export const styleCommands = [
  defineCommand({
    type: 'style.store',
    title: 'Store a style',
    about: 'Stores chosen properties of a box under a name. Returns its `id`.',
    args: StoreArgs,
    run: (desk, { layout, box, name, properties }, { newId }) => {
      if (desk.show.styles.length >= 200) throw new CommandError('too-many', 'A show holds at most 200 styles.');
      const look = lookOf(effectiveBox(desk.show, boxOf(layoutOf(desk, layout), box)));
      const style = { id: newId(), name, properties: someOf(properties), look, framingIds: [] };
      desk.show.styles.push(style);
      return { id: style.id };
    },
  }),
  defineCommand({
    type: 'style.edit',
    title: 'Edit a style',
    about: 'Name, properties, values and tie of a style. Every box that follows it changes at once. Returns how many `places` it touches.',
    args: EditArgs,
    mergeKey: ({ style, ...change }) => `style:${style}:${Object.keys(change).join()}`,
    run: (desk, { style: id, ...change }) => {
      const style = styleOf(desk, id);
      if (change.properties) change.properties = someOf(change.properties);
      if (change.look) {
        checkCrop(change.look.crop, `boxes of the style ${style.name}`, 'look.crop');
        checkKey(desk, change.look.key);
      }
      for (const framing of change.framingIds ?? []) framingOf(desk, framing, 'framingIds');
      if (change.framingIds) change.framingIds = [...new Set(change.framingIds)];
      Object.assign(style, change);
      return { places: placesOfStyle(desk.show, desk.air, id).length };
    },
  }),
  defineCommand({
    type: 'style.overwrite',
    title: 'Overwrite a style',
    about: 'Takes the values of a box into a style; every box that follows it changes at once. Returns how many `places` it touches.',
    args: OverwriteArgs,
    run: (desk, { style: id, layout, box }) => {
      const style = styleOf(desk, id);
      const from = boxOf(layoutOf(desk, layout), box);
      style.look = lookOf(effectiveBox(desk.show, from));
      if (from.styleId === id) from.own = from.own.filter((p) => !style.properties.includes(p));
      return { places: placesOfStyle(desk.show, desk.air, id).length };
    },
  }),
  defineCommand({
    type: 'style.apply',
    title: 'Apply a style',
    about: 'Boxes follow the style from now on, in all that it holds.',
    args: ApplyArgs,
    run: (desk, { style: id, layout, boxes }) => {
      for (const box of boxesOf(layoutOf(desk, layout), boxes)) {
        if (box.locked) throw new CommandError('locked', `Box ${box.name} is locked. Unlock it first.`, 'boxes');
        if (id === null) {
          Object.assign(box, lookOf(effectiveBox(desk.show, box)), { styleId: null });
          continue;
        }
        const style = styleOf(desk, id);
        box.styleId = id;
        box.own = box.own.filter((p) => !style.properties.includes(p));
      }
    },
  }),
  defineCommand({
    type: 'style.return',
    title: 'Hand back to the style',
    about: 'Values that were set by hand follow the style again.',
    args: ReturnArgs,
    run: (desk, { layout, boxes, properties }) => {
      for (const box of boxesOf(layoutOf(desk, layout), boxes)) box.own = properties ? box.own.filter((p) => !properties.includes(p)) : [];
    },
  }),
  defineCommand({
    type: 'style.remove',
    title: 'Remove a style',
    about: 'Boxes that follow it keep the look they have.',
    args: StyleArg,
    run: (desk, { style: id }) => {
      const { show, air } = desk;
      const style = styleOf(desk, id);
      const looks = [
        ...show.screens.surfaces.map((s) => s.look),
        ...show.screens.presets.flatMap((p) => p.looks.map((l) => l.look)),
        ...Object.values(air.screens.surfaces).flatMap(({ look, change }) => (change ? [look, change.from] : [look])),
      ];
      for (const { boxes } of [...show.layouts, ...show.presets]) for (const box of boxes) keepWithout(show, box, style);
      for (const { layers } of looks) for (const layer of layers) keepWithout(show, layer, style);
      remove(desk, 'style', id);
    },
  }),
];
