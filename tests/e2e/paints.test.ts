/** What the painter draws, against plain references worked out point by point. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { colourFill, createAccent, createElement, createGraphic, noStroke, textStyle } from '#core/graphics/create';
import { type Graphic } from '#core/graphics/document';
import { type Element } from '#core/graphics/element';
import { type Sizes } from '#core/graphics/grow';
import { inverseOf, project, projectionOf } from '#core/graphics/perspective';
import { startBrowser, type TestBrowser } from '../support/browser';
import { openHarness } from '../support/harness';
import { fromBase64 } from '../harness/base64';

const RASTER = { width: 96, height: 64 };
const RED = '#ff0000';
/** Points in each direction of a pixel that the reference looks at. */
const POINTS = 8;

let browser: TestBrowser;
let harness: Awaited<ReturnType<typeof openHarness>>;
beforeAll(async () => {
  browser = await startBrowser();
  harness = await openHarness(browser);
});
afterAll(async () => {
  await harness.close();
  await browser.close();
});

const graphicOf = (...elements: Element[]): Graphic => ({ ...createGraphic('g', 'Reference', RASTER), elements });

async function draw(graphic: Graphic, sizes: Sizes = {}, scale = 1): Promise<Uint8Array> {
  return fromBase64(
    await harness.page.evaluate((g, s, k) => window.harness.drawGraphic({ graphic: g, values: [] }, s, k), graphic, sizes, scale),
  );
}

/** Opacity of each pixel, 0 to 255. */
const alphaOf = (pixels: Uint8Array): number[] => Array.from({ length: pixels.length / 4 }, (_, i) => pixels[i * 4 + 3] as number);

/** Opacity of each pixel where just the points are covered that `inside` says. */
const reference = (inside: (x: number, y: number) => boolean, points = POINTS): number[] =>
  Array.from({ length: RASTER.width * RASTER.height }, (_, i) => {
    const [px, py] = [i % RASTER.width, Math.floor(i / RASTER.width)];
    let covered = 0;
    for (let k = 0; k < points * points; k += 1)
      if (inside(px + ((k % points) + 0.5) / points, py + (Math.floor(k / points) + 0.5) / points)) covered += 1;
    return (covered / (points * points)) * 255;
  });

/** Edges are softened a little differently by everyone; a wrong shape differs by whole pixels. */
function near(drawn: readonly number[], wanted: readonly number[], most = 40): void {
  const off = drawn.map((a, i) => Math.abs(a - (wanted[i] as number)));
  const worst = off.indexOf(Math.max(...off));
  expect(off[worst], `at ${worst % RASTER.width}, ${Math.floor(worst / RASTER.width)}: ${drawn[worst]}, not ${wanted[worst]}`).toBeLessThan(
    most,
  );
}

const BOX = { x: 20, y: 12, width: 52, height: 36 };
const shape = (kind: 'rectangle' | 'ellipse', change: Partial<Element>) =>
  createElement('e', kind, BOX, { fill: { kind: 'none' }, ...change });
const inRect = (x: number, y: number, grow: number) =>
  x >= BOX.x - grow && x <= BOX.x + BOX.width + grow && y >= BOX.y - grow && y <= BOX.y + BOX.height + grow;
const inEllipse = (x: number, y: number) => ((x - 46) / 26) ** 2 + ((y - 30) / 18) ** 2 <= 1;
const EDGE = Array.from(
  { length: 720 },
  (_, i) => [46 + 26 * Math.cos((i * Math.PI) / 360), 30 + 18 * Math.sin((i * Math.PI) / 360)] as const,
);
/** Distance to the edge of the ellipse, below zero inside of it. */
const fromEllipse = (x: number, y: number): number => {
  const far = Math.hypot((x - 46) / 26, (y - 30) / 18) - 1;
  if (Math.abs(far) * 18 > 12) return far * 18;
  let least = Infinity;
  for (const [ex, ey] of EDGE) least = Math.min(least, (x - ex) ** 2 + (y - ey) ** 2);
  return Math.sqrt(least) * (inEllipse(x, y) ? -1 : 1);
};

/** How far a stroke of six pixels reaches out of, and into, its edge. */
const REACH = { inside: [0, -6], centre: [3, -3], outside: [6, 0] } as const;

describe('a stroke', () => {
  it.each(['inside', 'centre', 'outside'] as const)('%s runs where it is to, on rectangles and ellipses', async (place) => {
    const stroke = { ...noStroke(), width: 6, colour: RED, place };
    const [out, into] = REACH[place];
    const rectangle = alphaOf(await draw(graphicOf(shape('rectangle', { stroke }))));
    near(
      rectangle,
      reference((x, y) => inRect(x, y, out) && !inRect(x, y, into - 1e-6)),
      6,
    );
    const ellipse = alphaOf(await draw(graphicOf(shape('ellipse', { stroke }))));
    near(
      ellipse,
      reference((x, y) => fromEllipse(x, y) <= out && fromEllipse(x, y) >= into, 4),
      60,
    );
  });

  it('dashed has strokes of three widths and gaps of two', async () => {
    const pixels = alphaOf(
      await draw(graphicOf(shape('rectangle', { stroke: { ...noStroke(), width: 2, colour: RED, place: 'centre', dash: 'dashed' } }))),
    );
    const row = pixels.slice(12 * RASTER.width + 20, 12 * RASTER.width + 70).map((a) => (a > 127 ? '#' : '.'));
    expect(row.join('')).toBe('######....'.repeat(5));
  });
});

describe('a mask', () => {
  it.each([true, false])('shows what is inside of it: %s', async (inside) => {
    const mask = createElement('m', 'ellipse', BOX);
    const masked = createElement(
      'e',
      'rectangle',
      { x: 4, y: 4, width: 80, height: 50 },
      { fill: colourFill(RED), mask: { elementId: 'm', inside } },
    );
    const drawn = alphaOf(await draw(graphicOf(mask, masked)));
    near(
      drawn,
      reference((x, y) => x >= 4 && x <= 84 && y >= 4 && y <= 54 && inEllipse(x, y) === inside),
      60,
    );
  });
});

describe('depth', () => {
  it('is seen where the projection says, text and all', async () => {
    const element = createElement('e', 'rectangle', BOX, { fill: colourFill(RED), turnY: 55, turnX: -20, rotation: 15 });
    const back = inverseOf(projectionOf(element, RASTER));
    const drawn = alphaOf(await draw(graphicOf(element)));
    near(
      drawn,
      reference((x, y) => {
        const p = back && project(back, { x, y });
        return p !== null && p.x >= 0 && p.x <= BOX.width && p.y >= 0 && p.y <= BOX.height;
      }),
      70,
    );
  });
});

describe('text', () => {
  const text = (words: string, style: Parameters<typeof textStyle>[1] = {}) =>
    createElement(
      't',
      'text',
      { x: 2, y: 20, width: 60, height: 20 },
      {
        fill: colourFill('#00ff00'),
        content: { kind: 'text', text: words, style: textStyle(20, { size: 18, ...style }), accents: [createAccent('*', { colour: RED })] },
      },
    );

  it('has its accents in their own colour, and no sign is seen', async () => {
    const count = (pixels: Uint8Array, part: 0 | 1) =>
      alphaOf(pixels).filter((a, i) => a > 200 && (pixels[i * 4 + part] as number) > 200).length;
    const [plain, accented] = [await draw(graphicOf(text('AB'))), await draw(graphicOf(text('A*B*')))];
    expect([count(plain, 0), count(accented, 0) > 10, count(accented, 1) > 10]).toEqual([0, true, true]);
    // As wide as without signs, but for the bolder letter.
    const right = (pixels: Uint8Array) => Math.max(...alphaOf(pixels).map((a, i) => (a > 60 ? i % RASTER.width : 0)));
    expect(Math.abs(right(accented) - right(plain))).toBeLessThan(4);
  });

  it('that grows takes the room that it needs, and pushes its neighbour', async () => {
    const group = createElement(
      'g',
      'group',
      { x: 2, y: 20, width: 40, height: 20 },
      { content: { kind: 'group', flow: 'row', align: 'start' } },
    );
    const sign = createElement('s', 'rectangle', { x: 34, y: 20, width: 8, height: 20 }, { parentId: 'g', fill: colourFill('#0000ff') });
    const of = (words: string) => graphicOf(group, { ...text(words, { overflow: 'grow' }), width: 28, parentId: 'g' }, sign);
    const blue = async (words: string) => {
      const graphic = of(words);
      const sizes = await harness.page.evaluate((g) => window.harness.measureGraphic({ graphic: g, values: [] }), graphic);
      const pixels = await draw(graphic, sizes);
      const xs = alphaOf(pixels).flatMap((a, i) => (a > 200 && (pixels[i * 4 + 2] as number) > 200 ? [i % RASTER.width] : []));
      return { left: Math.min(...xs), size: Object.values(sizes)[0]?.width ?? 0 };
    };
    const [short, long] = [await blue('A'), await blue('ABCDE')];
    expect(short.left).toBe(34);
    expect(long.size).toBeGreaterThan(30);
    expect(long.left).toBe(34 + long.size - 28);
  });
});
