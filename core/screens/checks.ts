/**
 * What does not agree on a surface: screens with their outputs and their real sizes, with each other, with a picture made for the venue, and
 * layers with the screens. Each finding says both numbers where there are two, and what mends it.
 */
import { type Command } from '../commands/command';
import { type Show } from '../desk/show';
import { effectiveBox } from '../layout/styles';
import { bottom, intersect, type Rect, right } from '../show/geometry';
import { type Raster } from '../show/raster';
import { areaOf, isSideways } from './canvas';
import { overlaps } from './marks';
import { screenOutput } from './outputs';
import { type Layer, type Screen, type Surface } from './surface';

export interface Fix {
  title: string;
  command: Command;
}

export interface Finding {
  /** `wrong` is seen by the audience; `note` may be meant. */
  weight: 'wrong' | 'note';
  text: string;
  screenIds: string[];
  layerId?: string;
  fixes: Fix[];
}

const size = ({ width, height }: { width: number; height: number }): string => `${width}×${height}`;
const place = ({ x, y, width, height }: Rect): string => `${x},${y} ${width}×${height}`;

const setScreen = (surface: Surface, screen: Screen, change: Record<string, unknown>): Command => ({
  type: 'surface.setScreens',
  args: { surface: surface.id, screens: [screen.id], ...change },
});

/** A screen and what feeds it. */
function feedFindings(show: Show, surface: Surface, screen: Screen): Finding[] {
  const say = (weight: Finding['weight'], text: string, ...fixes: Fix[]): Finding => ({ weight, text, screenIds: [screen.id], fixes });
  const output = screen.outputId === null ? undefined : screenOutput(show, screen.outputId);
  if (!output) return [say('wrong', `${screen.name} has no output: nothing is seen on it.`)];
  const found: Finding[] = [];
  if (output.shows.kind !== 'surface' || output.shows.surfaceId !== surface.id)
    found.push(
      say('wrong', `${output.name}, which feeds ${screen.name}, shows something else.`, {
        title: `Let it show ${surface.name}`,
        command: { type: 'screen.set', args: { output: output.id, shows: { kind: 'surface', surfaceId: surface.id } } },
      }),
    );
  const raster: Raster = output.raster ?? show.raster;
  const area = areaOf(screen, raster);
  if (area.x < 0 || area.y < 0 || right(area) > raster.width || bottom(area) > raster.height) {
    const cut = intersect(area, { x: 0, y: 0, ...raster });
    found.push(
      say(
        'wrong',
        `The active area of ${screen.name} is ${place(area)}, its output ${output.name} only ${size(raster)}.`,
        ...(cut ? [{ title: `Take ${place(cut)}`, command: setScreen(surface, screen, { area: cut }) }] : []),
        {
          title: `Give ${output.name} ${size(atLeast(raster, area))}`,
          command: { type: 'screen.set', args: { output: output.id, raster: atLeast(raster, area) } },
        },
      ),
    );
  }
  const turned = isSideways(screen.turn) ? { width: area.height, height: area.width } : area;
  if (turned.width !== screen.rect.width || turned.height !== screen.rect.height)
    found.push(
      say(
        'note',
        `${screen.name} is ${size(screen.rect)} on the canvas and ${size(turned)} in its output: it is scaled${sameShape(turned, screen.rect) ? '' : ' and stretched'}.`,
        {
          title: `${size(turned)} on the canvas`,
          command: setScreen(surface, screen, { rect: { ...screen.rect, width: turned.width, height: turned.height } }),
        },
        ...(fits(screen, raster)
          ? [{ title: `An active area of ${size(screen.rect)}`, command: setScreen(surface, screen, { area: asArea(screen, area) }) }]
          : []),
      ),
    );
  if (screen.size) {
    const wanted = { width: Math.round(screen.size.width / surface.pitch), height: Math.round(screen.size.height / surface.pitch) };
    if (wanted.width !== screen.rect.width || wanted.height !== screen.rect.height) {
      const real = { width: screen.rect.width * surface.pitch, height: screen.rect.height * surface.pitch };
      found.push(
        say(
          'note',
          `${screen.name} measures ${metres(screen.size)}, which is ${size(wanted)} here; it has ${size(screen.rect)}, ${metres(real)}.`,
          { title: `Take ${size(wanted)}`, command: setScreen(surface, screen, { size: screen.size }) },
          { title: `It measures ${metres(real)}`, command: setScreen(surface, screen, { size: real, rect: screen.rect }) },
        ),
      );
    }
  }
  return found;
}

const metres = ({ width, height }: { width: number; height: number }): string =>
  `${(width / 1000).toFixed(2)} × ${(height / 1000).toFixed(2)} m`;
const sameShape = (a: { width: number; height: number }, b: { width: number; height: number }): boolean =>
  Math.abs((a.width * b.height) / (a.height * b.width) - 1) < 0.005;
const even = (n: number): number => Math.ceil(n / 2) * 2;
const atLeast = (raster: Raster, area: Rect): Raster => ({
  width: even(Math.max(raster.width, right(area))),
  height: even(Math.max(raster.height, bottom(area))),
});
const asArea = ({ rect, turn }: Screen, { x, y }: Rect): Rect =>
  isSideways(turn) ? { x, y, width: rect.height, height: rect.width } : { x, y, width: rect.width, height: rect.height };
const fits = (screen: Screen, raster: Raster): boolean => {
  const area = asArea(screen, screen.area ?? { x: 0, y: 0, ...raster });
  return right(area) <= raster.width && bottom(area) <= raster.height;
};

/** Screens with the canvas and with each other. */
function placeFindings(surface: Surface): Finding[] {
  const found: Finding[] = [];
  const canvas = { x: 0, y: 0, width: surface.width, height: surface.height };
  for (const screen of surface.screens) {
    const seen = intersect(screen.rect, canvas);
    if (seen && seen.width === screen.rect.width && seen.height === screen.rect.height) continue;
    const lost = screen.rect.width * screen.rect.height - (seen ? seen.width * seen.height : 0);
    found.push({
      weight: 'note',
      text: seen
        ? `${screen.name} reaches over the canvas of ${size(surface)}: ${Math.round((100 * lost) / (screen.rect.width * screen.rect.height))} % of it shows nothing but layers that reach there.`
        : `${screen.name} at ${place(screen.rect)} lies beside the canvas of ${size(surface)}.`,
      screenIds: [screen.id],
      fixes: [{ title: 'Fit the canvas to the screens', command: { type: 'surface.fit', args: { surface: surface.id } } }],
    });
  }
  surface.screens.forEach((a, i) => {
    for (const b of surface.screens.slice(i + 1)) {
      const shared = intersect(a.rect, b.rect);
      if (!shared || (a.blends && b.blends)) continue;
      found.push({
        weight: 'wrong',
        text: `${a.name} and ${b.name} overlap by ${size(shared)} and are not blended: the light of both adds up there.`,
        screenIds: [a.id, b.id],
        fixes: [
          {
            title: 'Blend both',
            command: { type: 'surface.setScreens', args: { surface: surface.id, screens: [a.id, b.id], blends: true } },
          },
        ],
      });
    }
    if (a.blends && !surface.screens.some((b) => b.id !== a.id && b.blends && intersect(a.rect, b.rect)))
      found.push({
        weight: 'note',
        text: `${a.name} is to be blended, and no other screen that blends overlaps it.`,
        screenIds: [a.id],
        fixes: [{ title: 'Do not blend it', command: setScreen(surface, a, { blends: false }) }],
      });
  });
  // One output whose areas lie on each other shows the same pixels twice.
  surface.screens.forEach((a, i) => {
    for (const b of surface.screens.slice(i + 1))
      if (a.outputId !== null && a.outputId === b.outputId && (!a.area || !b.area || intersect(a.area, b.area)))
        found.push({
          weight: 'wrong',
          text: `${a.name} and ${b.name} use the same pixels of one output. Give each an active area of its own.`,
          screenIds: [a.id, b.id],
          fixes: [],
        });
  });
  return found;
}

/** Area of a rectangle that is covered by others: of the parts that the edges of all cut it into. */
function covered(rect: Rect, by: readonly Rect[]): number {
  const inside = by.flatMap((r) => intersect(rect, r) ?? []);
  const xs = [...new Set(inside.flatMap((r) => [r.x, right(r)]))].sort((a, b) => a - b);
  const ys = [...new Set(inside.flatMap((r) => [r.y, bottom(r)]))].sort((a, b) => a - b);
  let sum = 0;
  for (let i = 0; i + 1 < xs.length; i += 1)
    for (let j = 0; j + 1 < ys.length; j += 1) {
      const [x, y, x2, y2] = [xs[i] as number, ys[j] as number, xs[i + 1] as number, ys[j + 1] as number];
      if (inside.some((r) => r.x <= x && right(r) >= x2 && r.y <= y && bottom(r) >= y2)) sum += (x2 - x) * (y2 - y);
    }
  return sum;
}

/** Where a layer falls: shares of it that no screen shows, and that lie on a blend. */
export function layerFalls(show: Show, surface: Surface, layer: Layer): { off: number; blended: number; screens: string[] } {
  const { rect } = effectiveBox(show, layer);
  const area = rect.width * rect.height;
  const rects = surface.screens.map((s) => s.rect);
  return {
    off: 1 - covered(rect, rects) / area,
    blended: covered(rect, overlaps(surface)) / area,
    screens: surface.screens.filter((s) => intersect(s.rect, rect)).map((s) => s.id),
  };
}

function layerFindings(show: Show, surface: Surface): Finding[] {
  return surface.look.layers.flatMap((layer): Finding[] => {
    if (!layer.visible || surface.screens.length === 0) return [];
    const { off, blended, screens } = layerFalls(show, surface, layer);
    const share = (part: number) => `${Math.max(1, Math.round(part * 100))} %`;
    const say = (text: string): Finding => ({ weight: 'note', text, screenIds: screens, layerId: layer.id, fixes: [] });
    if (off > 1 - 1e-9) return [{ ...say(`${layer.name} lies off every screen: nobody sees it.`), weight: 'wrong' }];
    return [
      ...(off > 1e-9 ? [say(`${share(off)} of ${layer.name} falls between or beside the screens.`)] : []),
      ...(blended > 1e-9 && blended < 0.999 ? [say(`${share(blended)} of ${layer.name} lies on a blend.`)] : []),
    ];
  });
}

/** Pixels of sources that have been seen, by their identity. */
export type Sizes = Readonly<Record<string, { width: number; height: number }>>;

/** A still or file behind everything that is not as large as the canvas. */
function backgroundFindings(show: Show, surface: Surface, sizes: Sizes): Finding[] {
  const { background } = surface.look;
  const source = background?.kind === 'source' ? show.sources.find((s) => s.id === background.id) : undefined;
  const seen = source && Object.hasOwn(sizes, source.id) ? sizes[source.id] : undefined;
  if (!source || !seen || (source.settings.kind !== 'still' && source.settings.kind !== 'media')) return [];
  if (seen.width === surface.width && seen.height === surface.height) return [];
  const shape = sameShape(seen, surface) ? 'it is scaled' : 'it is scaled and cut';
  const fits = seen.width % 2 === 0 && seen.height % 2 === 0 && seen.width >= 16 && seen.height >= 16;
  return [
    {
      weight: 'note',
      text: `The background ${source.name} is ${size(seen)}, the canvas ${size(surface)}: ${shape}.`,
      screenIds: [],
      fixes: fits
        ? [
            {
              title: `Make the canvas ${size(seen)}`,
              command: { type: 'surface.set', args: { surface: surface.id, width: seen.width, height: seen.height } },
            },
          ]
        : [],
    },
  ];
}

/** Sources on the surface that have come with other pixels than was planned. */
function expectedFindings(show: Show, { look }: Surface, sizes: Sizes): Finding[] {
  const used = [look.background, ...look.layers.map((l) => l.content)].flatMap((c) => (c?.kind === 'source' ? [c.id] : []));
  return show.sources.flatMap(({ id, name, expects }): Finding[] => {
    const seen = Object.hasOwn(sizes, id) ? sizes[id] : undefined;
    if (!expects || !seen || !used.includes(id) || size(seen) === size(expects)) return [];
    return [
      {
        weight: 'wrong',
        text: `${name} was planned as ${size(expects)} and has come as ${size(seen)}${sameShape(seen, expects) ? '' : ', of another shape'}.`,
        screenIds: [],
        fixes: [
          { title: `Plan with ${size(seen)}`, command: { type: 'source.edit', args: { source: id, expects: { ...seen } } } },
          { title: 'Plan without', command: { type: 'source.edit', args: { source: id, expects: null } } },
        ],
      },
    ];
  });
}

/** Everything that does not agree on a surface, what is wrong first. */
export function surfaceFindings(show: Show, surface: Surface, sizes: Sizes = {}): Finding[] {
  const all = [
    ...surface.screens.flatMap((screen) => feedFindings(show, surface, screen)),
    ...placeFindings(surface),
    ...layerFindings(show, surface),
    ...backgroundFindings(show, surface, sizes),
    ...expectedFindings(show, surface, sizes),
  ];
  return [...all.filter((f) => f.weight === 'wrong'), ...all.filter((f) => f.weight === 'note')];
}

/** Share of two rectangles together that both cover. */
function likeness(a: Rect, b: Rect): number {
  const shared = intersect(a, b);
  if (!shared) return 0;
  const both = shared.width * shared.height;
  return both / (a.width * a.height + b.width * b.height - both);
}

/** Likeness from which an area of the picture is taken for a screen's. */
const TAKEN_FOR = 0.5;

/**
 * What a picture made for the venue says otherwise than the screens: its size, and areas that lie elsewhere or have other sizes. `areas` are
 * in pixels of the picture; an area that several overlapping screens make is known by the rectangle around them.
 */
export function contentFindings(
  surface: Surface,
  picture: { name: string; width: number; height: number },
  areas: readonly Rect[],
): Finding[] {
  const found: Finding[] = [];
  if (picture.width !== surface.width || picture.height !== surface.height)
    found.push({
      weight: 'wrong',
      text: `${picture.name} is ${size(picture)}, the canvas ${size(surface)}.`,
      screenIds: [],
      fixes:
        picture.width % 2 === 0 && picture.height % 2 === 0
          ? [
              {
                title: `Make the canvas ${size(picture)}`,
                command: { type: 'surface.set', args: { surface: surface.id, width: picture.width, height: picture.height } },
              },
            ]
          : [],
    });
  const left = new Set(areas);
  // The likest pairs first, each area and each screen once.
  const pairs = surface.screens
    .flatMap((screen) => areas.map((area) => ({ screen, area, like: likeness(screen.rect, area) })))
    .filter((p) => p.like >= TAKEN_FOR)
    .sort((a, b) => b.like - a.like);
  const done = new Set<string>();
  // Screens that overlap may be drawn as the one area that they make together.
  for (const area of areas) {
    const within = surface.screens.filter((s) => covered(s.rect, [area]) === s.rect.width * s.rect.height);
    const rects = within.map((s) => s.rect);
    if (within.length < 2 || covered(area, rects) < area.width * area.height) continue;
    left.delete(area);
    for (const { id } of within) done.add(id);
  }
  for (const { screen, area } of pairs) {
    if (done.has(screen.id) || !left.has(area)) continue;
    done.add(screen.id);
    left.delete(area);
    if (place(area) === place(screen.rect)) continue;
    found.push({
      weight: 'wrong',
      text: `${screen.name} is at ${place(screen.rect)}; ${picture.name} has it at ${place(area)}.`,
      screenIds: [screen.id],
      fixes: [{ title: `Take ${place(area)}`, command: setScreen(surface, screen, { rect: area }) }],
    });
  }
  // Projectors that overlap are drawn in pieces, or as one area: together they are right when the pieces make them up.
  const isMade = (rect: Rect) => covered(rect, areas) > 0.98 * rect.width * rect.height;
  for (const screen of surface.screens)
    if (!done.has(screen.id) && !isMade(screen.rect))
      found.push({
        weight: 'note',
        text: `${picture.name} shows no area for ${screen.name} at ${place(screen.rect)}.`,
        screenIds: [screen.id],
        fixes: [],
      });
  for (const area of left)
    if (
      covered(
        area,
        surface.screens.map((s) => s.rect),
      ) <
      0.98 * area.width * area.height
    )
      found.push({
        weight: 'note',
        text: `${picture.name} has an area at ${place(area)} that is no screen.`,
        screenIds: [],
        fixes: [{ title: 'Add a screen there', command: { type: 'surface.addScreen', args: { surface: surface.id, rect: area } } }],
      });
  return found;
}
