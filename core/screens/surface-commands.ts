/** Commands for surfaces as a whole: which there are, what of them is on air, and their presets. */
import { CommandError, defineCommand } from '../commands/command';
import { remove } from '../desk/remove';
import { Flag, Nested, Num, OneOf, Ref, Refs, Text, Variant, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { type Rect, RectField } from '../show/geometry';
import { checkThere } from '../desk/missing';
import { around } from '../layout/arrange';
import { surfaceNow, type Over } from './air';
import { overClass } from './document';
import { airOf, show as showLook, takeSurfaces } from './showing';
import { Blend, LARGEST_CANVAS, Look, MOST_PLACES, MOST_SURFACE_PRESETS, MOST_SURFACES, SurfaceChange } from './surface';
import { createSurface } from './surface-create';
import { checkCanvas, needPlace, needPreset, needSurface, needSurfaces, put, sameLook, wholeRect } from './surface-edit';

class AddArgs {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Whole(16, LARGEST_CANVAS, 'width of the canvas, pixels; that of the show without it', { optional: true }) width?: number;
  @Whole(16, LARGEST_CANVAS, 'height of the canvas, pixels; that of the show without it', { optional: true }) height?: number;
  @Num(0.05, 1000, 'what a pixel measures, millimetres', { optional: true }) pitch?: number;
}
class SurfaceArg {
  @Ref('surface', 'surface') surface!: string;
}
class SetArgs extends SurfaceArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Whole(16, LARGEST_CANVAS, 'width of the canvas, pixels', { optional: true }) width?: number;
  @Whole(16, LARGEST_CANVAS, 'height of the canvas, pixels', { optional: true }) height?: number;
  @Num(0.05, 1000, 'what a pixel measures, millimetres; screens keep their pixels', { optional: true }) pitch?: number;
  @Nested(() => Blend, 'how overlapping screens are blended', { optional: true }) blend?: Blend;
  @Ref('source', 'still that lies under the layers while they are placed', { optional: true, nullable: true }) templateId?: string | null;
  @Nested(() => SurfaceChange, 'how Next comes on air', { optional: true }) change?: SurfaceChange;
  @Flag('taken together with the programme', { optional: true }) withTake?: boolean;
}
class RescaleArgs extends SurfaceArg {
  @Num(0.05, 1000, 'what a pixel measures from now on, millimetres') pitch!: number;
}
class FitArgs extends SurfaceArg {
  @Whole(0, 4000, 'room around the screens, pixels', { optional: true }) around?: number;
}
class TakeArgs {
  @Refs('surface', MOST_SURFACES, 'surfaces; none for all') surfaces!: string[];
  @Flag('at once, without its transition', { optional: true }) cut?: boolean;
}
class LookArgs extends SurfaceArg {
  @OneOf(['next', 'air'], 'in Next, or on air') to!: 'next' | 'air';
  @Nested(() => Look, 'background and layers') look!: Look;
}
class OverArgs {
  @Refs('surface', MOST_SURFACES, 'surfaces; none for all') surfaces!: string[];
  @Variant(overClass, 'what stands in, across all screens; null for what is on air', { nullable: true }) over!: Over | null;
}
class AddPlaceArgs extends SurfaceArg {
  @Text(60, 'name', { min: 1 }) name!: string;
  @Nested(() => RectField, 'place on the canvas') rect!: Rect;
}
class PlaceArg extends SurfaceArg {
  @Ref('place', 'named place') place!: string;
}
class StoreArgs {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Refs('surface', MOST_SURFACES, 'surfaces that it sets; none for all') surfaces!: string[];
}
class PresetArg {
  @Ref('surface-preset', 'preset of surfaces') preset!: string;
}
class SetPresetArgs extends PresetArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Whole(1, 99, 'number by which it is found; null for none', { nullable: true, optional: true }) number?: number | null;
}
class RecallArgs extends PresetArg {
  @OneOf(['next', 'air'], 'into Next of its surfaces, or on air') to!: 'next' | 'air';
}

export const surfaceCommands = [
  defineCommand({
    type: 'surface.add',
    title: 'Add a surface',
    about: 'Adds an empty canvas. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { name, width = show.raster.width, height = show.raster.height, pitch = 2.5 }, { newId }) => {
      const { surfaces } = show.screens;
      if (surfaces.length >= MOST_SURFACES) throw new CommandError('too-many', `A show has at most ${MOST_SURFACES} surfaces.`);
      checkCanvas({ width, height });
      const surface = createSurface(newId(), name?.trim() || `Surface ${surfaces.length + 1}`, width, height, pitch);
      surfaces.push(surface);
      return { id: surface.id };
    },
  }),
  defineCommand({
    type: 'surface.set',
    title: 'Set up a surface',
    says: 'Set up {surface}',
    about: 'Name, canvas, scale, blends, template, and how Next comes on air. Screens and layers stay where they are.',
    args: SetArgs,
    mergeKey: ({ surface, ...change }) => `surface:${surface}:${Object.keys(change).join()}`,
    run: (desk, args) => {
      const { surface: id, ...change } = args;
      const surface = needSurface(desk, id);
      checkCanvas(change);
      checkThere(desk, SetArgs, args);
      Object.assign(surface, plainCopy(change));
    },
  }),
  defineCommand({
    type: 'surface.rescale',
    title: 'Give a surface another scale',
    about: 'Another size of a pixel: canvas, screens, layers and places keep what they really measure, on whole pixels.',
    args: RescaleArgs,
    run: (desk, { surface: id, pitch }) => {
      const surface = needSurface(desk, id);
      const by = surface.pitch / pitch;
      const even = (n: number) => Math.min(LARGEST_CANVAS, Math.max(16, Math.round((n * by) / 2) * 2));
      const scaled = (r: Rect) => ({ x: r.x * by, y: r.y * by, width: r.width * by, height: r.height * by });
      Object.assign(surface, { pitch, width: even(surface.width), height: even(surface.height) });
      for (const one of [...surface.screens, ...surface.look.layers, ...surface.places]) put(one, scaled(one.rect));
    },
  }),
  defineCommand({
    type: 'surface.fit',
    title: 'Fit a canvas to its screens',
    about: 'Makes the canvas just large enough for all screens, even, with the room asked for; everything on it moves along.',
    args: FitArgs,
    run: (desk, { surface: id, around: room = 0 }) => {
      const surface = needSurface(desk, id);
      if (surface.screens.length === 0) throw new CommandError('too-few', `${surface.name} has no screens yet.`, 'surface');
      const all = around(surface.screens.map((s) => s.rect));
      const even = (n: number) => Math.min(LARGEST_CANVAS, Math.max(16, Math.ceil((n + 2 * room) / 2) * 2));
      const [dx, dy] = [room - all.x, room - all.y];
      for (const one of [...surface.screens, ...surface.look.layers, ...surface.places])
        put(one, { ...one.rect, x: one.rect.x + dx, y: one.rect.y + dy });
      Object.assign(surface, { width: even(all.width), height: even(all.height) });
    },
  }),
  defineCommand({
    type: 'surface.remove',
    title: 'Remove a surface',
    says: 'Remove {surface}',
    about: 'Removes a surface with its screens and layers; outputs that show it go black, and presets of it alone go too.',
    args: SurfaceArg,
    hold: ({ air }, { surface }) => surfaceNow(air.screens, surface, 0).look.layers.length > 0,
    run: (desk, { surface: id }) => {
      needSurface(desk, id);
      remove(desk, 'surface', id);
      // A preset that sets nothing any more is none.
      desk.show.screens.presets = desk.show.screens.presets.filter((p) => p.looks.length > 0);
      delete desk.air.screens.surfaces[id];
    },
  }),
  defineCommand({
    type: 'surface.take',
    title: 'Take surfaces',
    says: 'Take {surfaces} to air',
    about: 'Puts what is in Next of surfaces on air, each by its own transition or at once. Next stays as it is, to go on from there.',
    args: TakeArgs,
    run: (desk, { surfaces, cut = false }, { frame }) => takeSurfaces(desk, needSurfaces(desk, surfaces), frame, cut),
  }),
  defineCommand({
    type: 'surface.setLook',
    title: 'Set all of a surface',
    says: 'Set all of {surface}',
    about:
      'Gives Next of a surface, or what is on air of it, a whole look at once: background and layers. On air it is a cut; the same again changes nothing.',
    args: LookArgs,
    hold: (_, { to }) => to === 'air',
    run: (desk, args, { frame }) => {
      const { surface: id, to, look } = args;
      const surface = needSurface(desk, id);
      checkThere(desk, LookArgs, { surface: id, to, look });
      if (to === 'next') surface.look = plainCopy(look);
      else showLook(desk, surface, look, frame, true);
    },
  }),
  defineCommand({
    type: 'surface.asOnAir',
    title: 'Put what is on air back into Next of a surface',
    about: 'Next becomes what is on air: what was prepared is taken back.',
    args: SurfaceArg,
    run: (desk, { surface: id }, { frame }) => {
      const surface = needSurface(desk, id);
      const { look } = surfaceNow(desk.air.screens, id, frame);
      if (sameLook(look, surface.look))
        throw new CommandError('nothing-changes', `What is in Next of ${surface.name} is on air.`, 'surface');
      surface.look = plainCopy(look);
    },
  }),
  defineCommand({
    type: 'surface.over',
    title: 'Black, a test picture, names or the last frame across surfaces',
    about: 'Stands across all screens of surfaces until it is taken away again; what is on air goes on behind it.',
    args: OverArgs,
    run: (desk, { surfaces, over }, { frame }) => {
      for (const { id } of needSurfaces(desk, surfaces)) airOf(desk, id, frame).over = over && plainCopy(over);
    },
  }),
  defineCommand({
    type: 'surface.addPlace',
    title: 'Name a place of a surface',
    about: 'Keeps a place on the canvas by name, for layers. Returns its `id`.',
    args: AddPlaceArgs,
    run: (desk, { surface: id, name, rect }, { newId }) => {
      const surface = needSurface(desk, id);
      if (surface.places.length >= MOST_PLACES) throw new CommandError('too-many', `A surface has at most ${MOST_PLACES} named places.`);
      const place = { id: newId(), name: name.trim() || 'Place', rect: wholeRect(rect) };
      surface.places.push(place);
      return { id: place.id };
    },
  }),
  defineCommand({
    type: 'surface.removePlace',
    title: 'Forget a named place',
    about: 'Forgets a named place; layers that were put there stay.',
    args: PlaceArg,
    run: (desk, { surface: id, place }) => {
      const surface = needSurface(desk, id);
      needPlace(surface, place);
      surface.places = surface.places.filter((p) => p.id !== place);
    },
  }),
  defineCommand({
    type: 'surface.storePreset',
    title: 'Store what is in Next of surfaces',
    about: 'Keeps what is in Next of one surface, or of several at once, as a preset. Returns its `id`.',
    args: StoreArgs,
    run: (desk, { name, surfaces }, { newId }) => {
      const { presets } = desk.show.screens;
      const chosen = needSurfaces(desk, surfaces);
      if (chosen.length === 0) throw new CommandError('too-few', 'The show has no surface.', 'surfaces');
      if (presets.length >= MOST_SURFACE_PRESETS) throw new CommandError('too-many', `A show has at most ${MOST_SURFACE_PRESETS} presets.`);
      const preset = {
        id: newId(),
        name: name?.trim() || `Preset ${presets.length + 1}`,
        number: null,
        looks: chosen.map((s) => ({ surfaceId: s.id, look: plainCopy(s.look) })),
      };
      presets.push(preset);
      return { id: preset.id };
    },
  }),
  defineCommand({
    type: 'surface.overwritePreset',
    title: 'Overwrite a preset of surfaces',
    says: 'Overwrite {preset}',
    about: 'Gives a preset what is in Next of its surfaces now.',
    args: PresetArg,
    hold: () => true,
    run: (desk, { preset: id }) => {
      const preset = needPreset(desk, id);
      for (const one of preset.looks) one.look = plainCopy(needSurface(desk, one.surfaceId).look);
    },
  }),
  defineCommand({
    type: 'surface.setPreset',
    title: 'Name or number a preset of surfaces',
    about: 'Name, and the number by which it is found.',
    args: SetPresetArgs,
    mergeKey: ({ preset, ...change }) => `surface-preset:${preset}:${Object.keys(change).join()}`,
    run: (desk, { preset: id, ...change }) => {
      const preset = needPreset(desk, id);
      const holder = desk.show.screens.presets.find((p) => typeof change.number === 'number' && p.number === change.number && p.id !== id);
      if (holder)
        throw new CommandError('number-taken', `${holder.name} wears the number ${change.number}. Take it off there first.`, 'number');
      Object.assign(preset, change);
    },
  }),
  defineCommand({
    type: 'surface.recallPreset',
    title: 'Recall a preset of surfaces',
    says: 'Recall {preset}',
    about: 'Puts a preset into Next of its surfaces; or on air, each by its transition, with Next the same.',
    args: RecallArgs,
    hold: (_, { to }) => to === 'air',
    run: (desk, { preset: id, to }, { frame }) => {
      for (const { surfaceId, look } of needPreset(desk, id).looks) {
        const surface = needSurface(desk, surfaceId);
        surface.look = plainCopy(look);
        if (to === 'air' && !sameLook(surfaceNow(desk.air.screens, surfaceId, frame).look, look))
          showLook(desk, surface, surface.look, frame, false);
      }
    },
  }),
  defineCommand({
    type: 'surface.removePreset',
    title: 'Remove a preset of surfaces',
    says: 'Remove {preset}',
    about: 'Removes a preset; what is in Next and on air stays.',
    args: PresetArg,
    run: (desk, { preset: id }) => {
      needPreset(desk, id);
      remove(desk, 'surface-preset', id);
    },
  }),
];
