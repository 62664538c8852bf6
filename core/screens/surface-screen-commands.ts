/** Commands for the screens of a surface: where they lie on the canvas, which output feeds them, and how they are blended and fitted. */
import { CommandError, defineCommand } from '../commands/command';
import { entityNamed } from '../desk/entities';
import { checkThere } from '../desk/missing';
import { Flag, ListOf, Nested, Num, OneOf, Ref, Refs, Text } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { type Rect, RectField } from '../show/geometry';
import { align, type Alignment, ALIGNMENTS, around, distribute } from '../layout/arrange';
import { screenOutput } from './outputs';
import { areaOf } from './canvas';
import { SurfacePlan } from './planned';
import { Corners, Edges, Gain, MOST_MASKS, MOST_SCREENS, RealSize, type Screen, TURNS, type Turn } from './surface';
import { createScreen } from './surface-create';
import { checkCanvas, checkCorners, checkFreeToMove, needScreens, needSurface, put, wholeRect } from './surface-edit';

class SurfaceArg {
  @Ref('surface', 'surface') surface!: string;
}
class ScreensArg extends SurfaceArg {
  @Refs('surface-screen', MOST_SCREENS, 'screens of the surface') screens!: string[];
}
class AddArgs extends SurfaceArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Nested(() => RectField, 'place on the canvas; without it, beside the last one, in the pixels of its output', { optional: true })
  rect?: Rect;
  @Ref('screen', 'output that feeds it', { nullable: true, optional: true }) outputId?: string | null;
}
class SetArgs extends ScreensArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Nested(() => RectField, 'place on the canvas, on whole pixels', { optional: true }) rect?: Rect;
  @Ref('screen', 'output that feeds it', { nullable: true, optional: true }) outputId?: string | null;
  @Nested(() => RectField, 'active area: the part of the output’s pixels that it uses; null for all', { nullable: true, optional: true })
  area?: Rect | null;
  @OneOf(TURNS, 'how the picture is turned in the output, clockwise', { optional: true }) turn?: Turn;
  @Nested(() => RealSize, 'what it really measures: its pixels on the canvas follow, unless they are given too', {
    nullable: true,
    optional: true,
  })
  size?: RealSize | null;
  @Flag('its edges are blended where it overlaps others', { optional: true }) blends?: boolean;
  @Nested(() => Edges, 'widths of its blended edges', { optional: true }) edges?: Edges;
  @Nested(() => Gain, 'light of each colour', { optional: true }) gain?: Gain;
  @Nested(() => Corners, 'four-corner fit', { nullable: true, optional: true }) corners?: Corners | null;
  @ListOf(() => RectField, MOST_MASKS, 'masks: parts of the output that stay black', { optional: true }) masks?: Rect[];
  @Flag('protected from being moved', { optional: true }) locked?: boolean;
}
class NudgeArgs extends ScreensArg {
  @Num(-20000, 20000, 'pixels to the right') x!: number;
  @Num(-20000, 20000, 'pixels downwards') y!: number;
}
class AlignArgs extends ScreensArg {
  @OneOf(ALIGNMENTS, 'edge or middle line') how!: Alignment;
  @Flag('align to the canvas rather than to each other', { optional: true }) toCanvas?: boolean;
}
class DistributeArgs extends ScreensArg {
  @OneOf(['across', 'down'], 'direction') axis!: 'across' | 'down';
}
class LineUpArgs extends DistributeArgs {
  @Num(-20000, 20000, 'gap between one and the next, pixels of the canvas; below 0 they overlap') gap!: number;
}

class PlanArgs extends SurfaceArg {
  @Nested(() => SurfacePlan, 'canvas and screens, things by their names') plan!: SurfacePlan;
}

/** The pixels of the canvas that a real size takes. */
const inPixels = (size: RealSize, pitch: number): { width: number; height: number } => ({
  width: Math.max(1, Math.round(size.width / pitch)),
  height: Math.max(1, Math.round(size.height / pitch)),
});

export const surfaceScreenCommands = [
  defineCommand({
    type: 'surface.addScreen',
    title: 'Add a screen to a surface',
    about: 'Adds a screen to the canvas. Returns its `id`.',
    args: AddArgs,
    run: (desk, args, { newId }) => {
      const surface = needSurface(desk, args.surface);
      const { screens } = surface;
      if (screens.length >= MOST_SCREENS) throw new CommandError('too-many', `A surface has at most ${MOST_SCREENS} screens.`);
      checkThere(desk, AddArgs, args);
      const { rect, outputId = null } = args;
      const raster = (outputId !== null && screenOutput(desk.show, outputId)?.raster) || desk.show.raster;
      const last = screens.at(-1)?.rect;
      const place = rect ?? { x: last ? last.x + last.width : 0, y: last?.y ?? 0, width: raster.width, height: raster.height };
      const screen = createScreen(newId(), args.name?.trim() || `Screen ${screens.length + 1}`, wholeRect(place), { outputId });
      screens.push(screen);
      return { id: screen.id };
    },
  }),
  defineCommand({
    type: 'surface.setScreens',
    title: 'Set screens of a surface',
    about: 'Gives one or several screens the same values. Locked ones keep their place.',
    args: SetArgs,
    mergeKey: ({ surface, screens, ...change }) => `surface-screens:${surface}:${screens.join()}:${Object.keys(change).join()}`,
    run: (desk, args) => {
      const { surface: id, screens: ids, ...change } = args;
      const surface = needSurface(desk, id);
      const screens = needScreens(surface, ids);
      checkThere(desk, SetArgs, args);
      if ((change.rect || change.size) && change.locked !== false) checkFreeToMove(screens);
      for (const screen of screens) {
        Object.assign(screen, plainCopy(change));
        if (change.rect) put(screen, change.rect);
        else if (change.size) put(screen, { ...screen.rect, ...inPixels(change.size, surface.pitch) });
        if (change.area) screen.area = wholeRect(change.area);
        if (change.masks) screen.masks = change.masks.map(wholeRect);
        const output = screen.outputId === null ? null : screenOutput(desk.show, screen.outputId);
        checkCorners(screen.corners, areaOf(screen, output?.raster ?? desk.show.raster));
      }
    },
  }),
  defineCommand({
    type: 'surface.nudgeScreens',
    title: 'Nudge screens of a surface',
    about: 'Moves screens by some pixels of the canvas.',
    args: NudgeArgs,
    mergeKey: ({ surface, screens }) => `surface-nudge:${surface}:${screens.join()}`,
    run: (desk, { surface, screens: ids, x, y }) => {
      const screens = needScreens(needSurface(desk, surface), ids);
      checkFreeToMove(screens);
      for (const s of screens) put(s, { ...s.rect, x: s.rect.x + x, y: s.rect.y + y });
    },
  }),
  defineCommand({
    type: 'surface.alignScreens',
    title: 'Align screens of a surface',
    about: 'Aligns screens to each other, or to the canvas; a single one always to the canvas.',
    args: AlignArgs,
    run: (desk, { surface: id, screens: ids, how, toCanvas }) => {
      const surface = needSurface(desk, id);
      const screens = needScreens(surface, ids);
      checkFreeToMove(screens);
      const rects = screens.map((s) => s.rect);
      const frame = toCanvas || screens.length < 2 ? { x: 0, y: 0, width: surface.width, height: surface.height } : around(rects);
      align(rects, how, frame).forEach((rect, i) => put(screens[i] as Screen, rect));
    },
  }),
  defineCommand({
    type: 'surface.distributeScreens',
    title: 'Distribute screens of a surface',
    about: 'Makes the gaps or overlaps between three or more screens equal; the outermost stay.',
    args: DistributeArgs,
    run: (desk, { surface, screens: ids, axis }) => {
      if (ids.length < 3) throw new CommandError('too-few', 'Choose three screens or more to distribute.', 'screens');
      const screens = needScreens(needSurface(desk, surface), ids);
      checkFreeToMove(screens);
      distribute(
        screens.map((s) => s.rect),
        axis,
      ).forEach((rect, i) => put(screens[i] as Screen, rect));
    },
  }),
  defineCommand({
    type: 'surface.lineUp',
    title: 'Line screens up',
    about: 'Puts screens one after the other, in the order of their places, with the same gap or overlap; the first stays.',
    args: LineUpArgs,
    run: (desk, { surface, screens: ids, axis, gap }) => {
      if (ids.length < 2) throw new CommandError('too-few', 'Choose two screens or more to line up.', 'screens');
      const [start, length] = axis === 'across' ? (['x', 'width'] as const) : (['y', 'height'] as const);
      const screens = needScreens(needSurface(desk, surface), ids).sort((a, b) => a.rect[start] - b.rect[start]);
      const [first, ...rest] = screens as [Screen, ...Screen[]];
      checkFreeToMove(rest);
      const short = screens.find((s) => -gap >= s.rect[length]);
      if (short)
        throw new CommandError(
          'bad-value',
          `An overlap of ${-gap} pixels is as large as ${short.name}, which has ${short.rect[length]}. Overlap less.`,
          'gap',
        );
      let at = first.rect[start] + first.rect[length] + gap;
      for (const screen of rest) {
        // From the unrounded place, so that rounding never adds up.
        put(screen, { ...screen.rect, [start]: at });
        at += screen.rect[length] + gap;
      }
    },
  }),
  defineCommand({
    type: 'surface.plan',
    title: 'Plan a surface anew',
    about:
      'Gives a surface a canvas and screens at once, as a file of a plan does. Screens are known by their names: those that are not named go, and what the plan does not say of the others stays.',
    args: PlanArgs,
    run: (desk, { surface: id, plan }, { newId }) => {
      const surface = needSurface(desk, id);
      checkCanvas(plan);
      const names = new Set<string>();
      surface.screens = plan.screens.map(({ name, output, rect, area, ...rest }, i): Screen => {
        const key = name.trim().toLowerCase();
        if (names.has(key)) throw new CommandError('twice', `Two screens of the plan are called ${name}.`, `plan.screens[${i}].name`);
        names.add(key);
        const feeds = entityNamed(desk.show, 'screen', output);
        if (output !== '' && !feeds)
          throw new CommandError('unknown-output', `No output is called “${output}”.`, `plan.screens[${i}].output`);
        const before = surface.screens.find((s) => s.name.toLowerCase() === key);
        const screen = createScreen(before?.id ?? newId(), name.trim(), rect, {
          ...(before && plainCopy(before)),
          ...plainCopy(rest),
          name: name.trim(),
          outputId: feeds?.id ?? null,
          area: area && wholeRect(area),
        });
        put(screen, rect);
        return screen;
      });
      Object.assign(surface, { width: plan.width, height: plan.height, pitch: plan.pitch });
    },
  }),
  defineCommand({
    type: 'surface.removeScreens',
    title: 'Remove screens from a surface',
    about: 'Takes screens off the canvas; the outputs that fed them stay. Locked ones refuse.',
    args: ScreensArg,
    run: (desk, { surface: id, screens: ids }) => {
      const surface = needSurface(desk, id);
      checkFreeToMove(needScreens(surface, ids));
      surface.screens = surface.screens.filter((s) => !ids.includes(s.id));
    },
  }),
];
