/** Commands for what is in Next of a surface: its background and its layers. What is on air stays until the next take. */
import { CommandError, defineCommand } from '../commands/command';
import { Nested, Num, OneOf, Ref, Refs, Text, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { type Rect, RectField } from '../show/geometry';
import { around } from '../layout/arrange';
import { withBoxChange } from '../layout/box-change';
import { BoxContent, type StyleProperty } from '../layout/document';
import { checkContent, checkCrop, checkKey, styleOf } from '../layout/edit';
import { keepWithout, propertiesOf, stylesOf } from '../layout/styles';
import { type Layer, LAYER_SHOWS, MOST_LAYERS, MOST_SCREENS, type Surface } from './surface';
import { createLayer } from './surface-create';
import { needLayers, needPlace, needScreens, needSurface, wholeRect } from './surface-edit';

class SurfaceArg {
  @Ref('surface', 'surface') surface!: string;
}
class LayersArg extends SurfaceArg {
  @Refs('layer', MOST_LAYERS, 'layers in Next') layers!: string[];
}
class BackgroundArgs extends SurfaceArg {
  @Nested(() => BoxContent, 'behind the layers; null for black', { nullable: true }) content!: BoxContent | null;
}
class AddArgs extends SurfaceArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Nested(() => BoxContent, 'what it shows', { nullable: true, optional: true }) content?: BoxContent | null;
  @OneOf(LAYER_SHOWS, 'its own content, programme, or clean programme', { optional: true }) shows?: Layer['shows'];
  @Nested(() => RectField, 'place on the canvas; without it, the first screen', { optional: true }) rect?: Rect;
}
class SetArgs extends withBoxChange(LayersArg) {
  @OneOf(LAYER_SHOWS, 'its own content, programme, or clean programme', { optional: true }) shows?: Layer['shows'];
}
class NudgeArgs extends LayersArg {
  @Num(-20000, 20000, 'pixels to the right') x!: number;
  @Num(-20000, 20000, 'pixels downwards') y!: number;
}
class StyleArgs extends LayersArg {
  @Ref('style', 'style; null lets the layers go, as they look now', { nullable: true }) style!: string | null;
}
class OnArgs extends LayersArg {
  @Refs('surface-screen', MOST_SCREENS, 'screens that each fills, together; none for all of them', { optional: true }) screens?: string[];
  @Ref('place', 'named place that each fills', { optional: true }) place?: string;
  @OneOf(['all', 'left half', 'right half', 'upper half', 'lower half', 'left third', 'middle third', 'right third'], 'part of it', {
    optional: true,
  })
  part?: Part;
}
class OrderArgs extends SurfaceArg {
  @Ref('layer', 'layer') layer!: string;
  @Whole(0, MOST_LAYERS, 'place, from 0, the backmost') index!: number;
}

type Part = 'all' | 'left half' | 'right half' | 'upper half' | 'lower half' | 'left third' | 'middle third' | 'right third';

/** What a style says of places is in pixels of the show's picture, and means nothing on a canvas. */
const PLACE: readonly StyleProperty[] = ['position', 'size'];

/** A part of a place. */
export function partOf({ x, y, width, height }: Rect, part: Part): Rect {
  switch (part) {
    case 'all':
      return { x, y, width, height };
    case 'left half':
      return { x, y, width: width / 2, height };
    case 'right half':
      return { x: x + width / 2, y, width: width / 2, height };
    case 'upper half':
      return { x, y, width, height: height / 2 };
    case 'lower half':
      return { x, y: y + height / 2, width, height: height / 2 };
    case 'left third':
      return { x, y, width: width / 3, height };
    case 'middle third':
      return { x: x + width / 3, y, width: width / 3, height };
    case 'right third':
      return { x: x + (width * 2) / 3, y, width: width / 3, height };
  }
}

/** @throws CommandError when a layer would lie wholly beside the canvas */
function checkOn(surface: Surface, rect: Rect, name: string): void {
  if (rect.x >= surface.width || rect.y >= surface.height || rect.x + rect.width <= 0 || rect.y + rect.height <= 0)
    throw new CommandError('outside', `Layer ${name} would lie wholly beside the canvas of ${surface.width}×${surface.height}.`, 'rect');
}

/** @throws CommandError when a layer is protected */
function checkFree(layers: readonly Layer[]): void {
  const locked = layers.find((l) => l.locked);
  if (locked) throw new CommandError('locked', `Layer ${locked.name} is locked. Unlock it first.`, 'layers');
}

export const layerCommands = [
  defineCommand({
    type: 'layer.background',
    title: 'Set the background of a surface',
    about: 'What is behind the layers in Next; it covers the whole canvas.',
    args: BackgroundArgs,
    run: (desk, { surface: id, content }) => {
      const surface = needSurface(desk, id);
      checkContent(desk, surface, content);
      surface.look.background = content && plainCopy(content);
    },
  }),
  defineCommand({
    type: 'layer.add',
    title: 'Add a layer to a surface',
    about: 'Adds a layer in front of the others, in Next. Returns its `id`.',
    args: AddArgs,
    run: (desk, { surface: id, name, content = null, shows = 'picture', rect }, { newId }) => {
      const surface = needSurface(desk, id);
      const { layers } = surface.look;
      if (layers.length >= MOST_LAYERS) throw new CommandError('too-many', `A surface holds at most ${MOST_LAYERS} layers.`);
      checkContent(desk, surface, content);
      const place = rect ?? surface.screens[0]?.rect ?? { x: 0, y: 0, width: surface.width, height: surface.height };
      const layer = createLayer(
        newId(),
        name?.trim() || `Layer ${layers.length + 1}`,
        plainCopy(place),
        content && plainCopy(content),
        shows,
      );
      checkOn(surface, layer.rect, layer.name);
      layers.push(layer);
      return { id: layer.id };
    },
  }),
  defineCommand({
    type: 'layer.set',
    title: 'Set layers of a surface',
    about: 'Gives one or several layers in Next the same values.',
    args: SetArgs,
    mergeKey: ({ surface, layers, ...change }) => `layer:${surface}:${layers.join()}:${Object.keys(change).join()}`,
    run: (desk, { surface: id, layers: ids, ...change }) => {
      const surface = needSurface(desk, id);
      const layers = needLayers(surface, ids);
      if (change.content !== undefined) checkContent(desk, surface, change.content);
      checkKey(desk, change.key);
      if (change.locked !== false && Object.keys(change).some((k) => k !== 'name' && k !== 'visible' && k !== 'locked')) checkFree(layers);
      for (const layer of layers) {
        if (change.crop) checkCrop(change.crop, `layer ${layer.name}`);
        if (change.rect) checkOn(surface, change.rect, layer.name);
        // What is set by hand follows no style any more.
        if (stylesOf(desk.show, layer).length > 0) layer.own = [...new Set([...layer.own, ...propertiesOf(change, layer)])];
        Object.assign(layer, plainCopy(change));
      }
    },
  }),
  defineCommand({
    type: 'layer.style',
    title: 'Let layers follow a style',
    says: 'Let {layers} follow {style}',
    about: 'Layers in Next follow the style from now on, in all that it holds but place and size.',
    args: StyleArgs,
    run: (desk, { surface: id, layers: ids, style: styleId }) => {
      const layers = needLayers(needSurface(desk, id), ids);
      checkFree(layers);
      const style = styleId === null ? null : styleOf(desk, styleId);
      if (style && style.properties.every((p) => PLACE.includes(p)))
        throw new CommandError(
          'nothing-changes',
          `${style.name} holds only place and size. For these, surfaces have named places.`,
          'style',
        );
      for (const layer of layers) {
        const followed = desk.show.styles.find((s) => s.id === layer.styleId);
        if (!style && followed) keepWithout(desk.show, layer, followed);
        if (!style) continue;
        layer.styleId = style.id;
        layer.own = layer.own.filter((p) => PLACE.includes(p) || !style.properties.includes(p));
      }
    },
  }),
  defineCommand({
    type: 'layer.nudge',
    title: 'Nudge layers of a surface',
    about: 'Moves layers in Next by some pixels of the canvas.',
    args: NudgeArgs,
    mergeKey: ({ surface, layers }) => `layer-nudge:${surface}:${layers.join()}`,
    run: (desk, { surface: id, layers: ids, x, y }) => {
      const surface = needSurface(desk, id);
      const layers = needLayers(surface, ids);
      checkFree(layers);
      for (const layer of layers) {
        const rect = { ...layer.rect, x: layer.rect.x + x, y: layer.rect.y + y };
        checkOn(surface, rect, layer.name);
        layer.rect = rect;
      }
    },
  }),
  defineCommand({
    type: 'layer.on',
    title: 'Put layers on screens',
    says: 'Put {layers} on {screens}',
    about: 'Lets layers in Next fill one screen, the rectangle around several or all of them, or a named place; or a half or third of it.',
    args: OnArgs,
    run: (desk, { surface: id, layers: ids, screens = [], place, part = 'all' }) => {
      const surface = needSurface(desk, id);
      const layers = needLayers(surface, ids);
      checkFree(layers);
      const chosen = screens.length > 0 ? needScreens(surface, screens) : surface.screens;
      if (place === undefined && chosen.length === 0) throw new CommandError('too-few', `${surface.name} has no screens yet.`, 'screens');
      const whole = place === undefined ? around(chosen.map((s) => s.rect)) : needPlace(surface, place).rect;
      const rect = wholeRect(partOf(whole, part));
      for (const layer of layers) {
        checkOn(surface, rect, layer.name);
        layer.rect = { ...rect };
      }
    },
  }),
  defineCommand({
    type: 'layer.order',
    title: 'Order a layer',
    about: 'Puts a layer in front of others or behind them.',
    args: OrderArgs,
    run: (desk, { surface: id, layer, index }) => {
      const surface = needSurface(desk, id);
      const { layers } = surface.look;
      const [one] = needLayers(surface, [layer], 'layer');
      const [moved] = layers.splice(layers.indexOf(one as Layer), 1);
      if (moved) layers.splice(Math.min(index, layers.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'layer.remove',
    title: 'Remove layers',
    about: 'Takes layers out of Next. Locked ones refuse.',
    args: LayersArg,
    run: (desk, { surface: id, layers: ids }) => {
      const surface = needSurface(desk, id);
      checkFree(needLayers(surface, ids));
      surface.look.layers = surface.look.layers.filter((l) => !ids.includes(l.id));
    },
  }),
];
