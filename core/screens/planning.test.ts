/** Planning a venue: lengths of all kinds, plans out and in, what does not agree, and areas found in a picture made for it. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { intersect, type Rect } from '../show/geometry';
import { ArithmeticError } from '../time/arithmetic';
import { contentFindings, layerFalls, surfaceFindings } from './checks';
import { findAreas } from './find-areas';
import { inFeet, inMetres, parseLength } from './lengths';
import { planFromText, planOf, planToCsv, planToJson } from './plan-file';
import { betweenScreens } from './between';
import { planSvg, templateSvg } from './plan-svg';
import { asWall, seenSignal } from './wall-light';

/** The pier: two projectors that overlap by 240 pixels, a ribbon under them by two outputs, a sail that is turned. */
function pier(): { desk: Desk; id: string } {
  let desk = must(sampleDesk(), 'surface.add', { name: 'Pier wall', width: 5120, height: 1600, pitch: 2.5 });
  const id = desk.show.screens.surfaces[0]!.id;
  const screens: [string, Rect, { width: number; height: number }, Rect | null, string][] = [
    ['Left', { x: 0, y: 0, width: 1920, height: 1200 }, { width: 1920, height: 1200 }, null, 'none'],
    ['Right', { x: 1680, y: 0, width: 1920, height: 1200 }, { width: 1920, height: 1200 }, null, 'none'],
    [
      'Ribbon left',
      { x: 0, y: 1280, width: 1800, height: 256 },
      { width: 1920, height: 1080 },
      { x: 0, y: 0, width: 1800, height: 256 },
      'none',
    ],
    [
      'Ribbon right',
      { x: 1800, y: 1280, width: 1800, height: 256 },
      { width: 1920, height: 1080 },
      { x: 0, y: 0, width: 1800, height: 256 },
      'none',
    ],
    ['Sail', { x: 4160, y: 32, width: 896, height: 1536 }, { width: 1536, height: 896 }, null, 'right'],
  ];
  for (const [name, rect, raster, area, turn] of screens) {
    desk = must(desk, 'screen.add', { name, raster, shows: { kind: 'surface', surfaceId: id } });
    desk = must(desk, 'surface.addScreen', { surface: id, name, rect, outputId: desk.show.screens.outputs.at(-1)!.id });
    const screen = desk.show.screens.surfaces[0]!.screens.at(-1)!.id;
    desk = must(desk, 'surface.setScreens', { surface: id, screens: [screen], area, turn, blends: name === 'Left' || name === 'Right' });
  }
  return { desk, id };
}
const surfaceIn = (desk: Desk) => desk.show.screens.surfaces[0]!;
const texts = (desk: Desk) => surfaceFindings(desk.show, surfaceIn(desk)).map((f) => f.text);

describe('lengths', () => {
  const mm = (text: string, bare: 'px' | 'm' | 'mm' | 'ft' = 'px') => parseLength(text, { pitch: 2.5, bare, whole: 4800 });

  it('are read as technicians write them, with arithmetic', () => {
    for (const [text, wanted] of [
      ['0.60 m', 600],
      ['60cm', 600],
      ['240', 600],
      ['240 px', 600],
      ["2'", 609.6],
      ['2 ft 6 in', 762],
      ['4′ 9 3/4″', 1466.85],
      ['3/4"', 19.05],
      ['1 m + 240 px', 1600],
      ['2*(1,5 m - 50 cm)', 2000],
      ['50%', 2400],
      ['100% - 0.6 m', 4200],
      ['-0.2 m', -200],
    ] as const)
      expect(mm(text), text).toBeCloseTo(wanted, 4);
    expect(mm('3.6', 'm')).toBe(3600);
    expect(mm('12', 'ft')).toBeCloseTo(3657.6, 6);
  });

  it('say what is no unit and no number', () => {
    expect(() => mm('3 yards')).toThrow(/“yards” is no unit: write m, cm, mm, ft, in or px/);
    for (const bad of ['', 'NaN m', '1 m m', '2 ..', 'Infinity', '1/0 m', `${'1+'.repeat(150)}1`, 'constructor'])
      expect(() => mm(bad), bad).toThrow(ArithmeticError);
  });

  it('are written in metres and feet, and come back to the pixel', () => {
    expect([inMetres(3600), inMetres(605), inFeet(3600), inFeet(1466.85), inFeet(304.8), inFeet(0), inFeet(-304.8)]).toEqual([
      '3.60 m',
      '0.605 m',
      '11′ 9 3/4″',
      '4′ 9 3/4″',
      '1′ 0″',
      '0″',
      '−1′ 0″',
    ]);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 20000 }), fc.double({ min: 1, max: 30, noNaN: true }), (pixels, pitch) => {
        const length = pixels * pitch;
        expect(parseLength(inMetres(length), { pitch, bare: 'px' }) / pitch).toBeCloseTo(pixels, 0);
        // A sixteenth of an inch is 1.6 mm.
        fc.pre(pitch > 4);
        expect(Math.round(parseLength(inFeet(length), { pitch, bare: 'px' }) / pitch)).toBe(pixels);
      }),
    );
  });
});

describe('the plan of a surface', () => {
  it('leaves as a table and as JSON, and comes back the same', () => {
    const { desk, id } = pier();
    const sized = must(desk, 'surface.setScreens', {
      surface: id,
      screens: [surfaceIn(desk).screens[0]!.id],
      size: { width: 4800, height: 3000 },
    });
    const wanted = planOf(sized.show, surfaceIn(sized));
    for (const text of [planToCsv(sized.show, surfaceIn(sized)), planToJson(sized.show, surfaceIn(sized))]) {
      // Into a surface that has none of it, and into the very one.
      const empty = must(
        must(sized, 'surface.removeScreens', { surface: id, screens: surfaceIn(sized).screens.map((s) => s.id) }),
        'surface.set',
        { surface: id, pitch: 2.5 },
      );
      for (const onto of [empty, sized]) {
        const { plan, faults } = planFromText(onto.show, surfaceIn(onto), text);
        expect(faults).toEqual([]);
        const after = must(onto, 'surface.plan', { surface: id, plan });
        expect(planOf(after.show, surfaceIn(after))).toEqual(wanted);
        if (onto === sized) expect(surfaceIn(after)).toEqual(surfaceIn(sized));
      }
    }
  });

  it('takes lengths of all kinds, and names every fault by line and column', () => {
    const { desk } = pier();
    const good = planFromText(desk.show, surfaceIn(desk), 'screen,x,y,real width,real height,output\nNew,4.5 m,2 ft,3.6 m,2 m,sail\n');
    expect(good.faults).toEqual([]);
    expect(good.plan?.screens[0]).toMatchObject({
      name: 'New',
      rect: { x: 1800, y: 244, width: 1440, height: 800 },
      size: { width: 3600, height: 2000 },
      output: 'sail',
    });
    const bad = planFromText(desk.show, surfaceIn(desk), 'Screen,X,Output,Turned,Area X\nLeft,3 yards,Nobody,sideways,4\n,oops,,,\n');
    expect(bad.plan).toBeNull();
    expect(bad.faults.map((f) => [f.row, f.column])).toEqual([
      [1, 'X'],
      [1, 'Area X'],
      [1, 'Turned'],
      [1, 'Output'],
      [2, 'Screen'],
      [2, 'X'],
    ]);
    for (const text of [
      '',
      'a,b\n1,2',
      '{"format":"other"}',
      '{',
      '[]',
      `{"format":"bivoca-surface-plan","width":"wide"}`,
      'x'.repeat(600_000),
    ]) {
      const { plan, faults } = planFromText(desk.show, surfaceIn(desk), text);
      expect([plan, faults.length > 0]).toEqual([null, true]);
    }
    const far = planFromText(desk.show, surfaceIn(desk), 'Screen,X\nLeft,900000\n');
    expect(far.faults[0]).toMatchObject({ row: 1 });
  });

  it('refuses two screens of one name and outputs that are not there, and changes nothing', () => {
    const { desk, id } = pier();
    const plan = planOf(desk.show, surfaceIn(desk));
    const twice = { ...plan, screens: [plan.screens[0], plan.screens[0]] };
    expect(attempt(desk, 'surface.plan', { surface: id, plan: twice })).toMatchObject({
      ok: false,
      error: { code: 'twice', field: 'plan.screens[1].name' },
    });
    const nobody = { ...plan, screens: [{ ...plan.screens[0], output: 'Nobody' }] };
    expect(attempt(desk, 'surface.plan', { surface: id, plan: nobody })).toMatchObject({
      ok: false,
      error: { field: 'plan.screens[0].output' },
    });
  });

  it('is drawn with all its numbers, and as a template whose areas are the screens', () => {
    const { desk } = pier();
    const svg = planSvg(desk.show, surfaceIn(desk), 'm');
    for (const words of [
      'overlap 0.60 m',
      'gap 0.20 m',
      'gap 1.40 m',
      '4.80 m × 3.00 m',
      'Canvas 5120×1600 pixels, 2.5 mm a pixel',
      'area 1800×256 at 0,0',
    ])
      expect(svg).toContain(words);
    expect(planSvg(desk.show, surfaceIn(desk), 'ft')).toContain('overlap 1′ 11 5/8″');
    const gaps = betweenScreens(surfaceIn(desk).screens).map((g) => [g.from.name, g.to.name, g.axis, g.gap]);
    expect(gaps).toContainEqual(['Left', 'Right', 'across', -240]);
    expect(gaps).toContainEqual(['Left', 'Ribbon left', 'down', 80]);
    expect(gaps).toContainEqual(['Right', 'Sail', 'across', 560]);
    const named = must(desk, 'surface.setScreens', {
      surface: surfaceIn(desk).id,
      screens: [surfaceIn(desk).screens[0]!.id],
      name: '<b>&"',
    });
    expect(templateSvg(surfaceIn(named))).toContain('1 &#60;b&#62;&#38;&#34;');
  });
});

describe('what does not agree', () => {
  it('is nothing in a plan that is right, and each finding goes with one press', () => {
    const { desk, id } = pier();
    expect(texts(desk)).toEqual([]);
    const [left, , ribbon, , sail] = surfaceIn(desk).screens.map((s) => s.id);
    const wrong = [
      must(desk, 'surface.setScreens', { surface: id, screens: [left], blends: false }),
      must(desk, 'surface.setScreens', { surface: id, screens: [ribbon], area: { x: 200, y: 0, width: 1800, height: 256 } }),
      must(desk, 'surface.setScreens', { surface: id, screens: [sail], rect: { x: 4160, y: 32, width: 900, height: 1536 } }),
      must(desk, 'surface.setScreens', {
        surface: id,
        screens: [left],
        size: { width: 4000, height: 3000 },
        rect: { x: 0, y: 0, width: 1920, height: 1200 },
      }),
      must(desk, 'screen.set', { output: desk.show.screens.outputs[0]!.id, shows: { kind: 'clean' } }),
    ];
    for (const one of wrong) {
      const findings = surfaceFindings(one.show, surfaceIn(one));
      expect(findings.length).toBeGreaterThan(0);
      const [first] = findings;
      for (const { command } of first!.fixes) {
        const mended = must(one, command.type, command.args);
        expect(texts(mended)).not.toContain(first!.text);
      }
      expect(first!.fixes.length).toBeGreaterThan(0);
    }
    expect(texts(wrong[0]!)[0]).toBe('Left and Right overlap by 240×1200 and are not blended: the light of both adds up there.');
    expect(texts(wrong[1]!)[0]).toContain('is 200,0 1800×256, its output Ribbon left only 1920×1080');
    expect(texts(wrong[2]!)[0]).toBe('Sail is 900×1536 on the canvas and 896×1536 in its output: it is scaled.');
    expect(texts(wrong[3]!)[0]).toContain('measures 4.00 × 3.00 m, which is 1600×1200 here; it has 1920×1200, 4.80 × 3.00 m');
  });

  it('is said of each layer: what no screen shows, and what lies on a blend', () => {
    const { desk, id } = pier();
    const layer = (rect: Rect) => {
      const set = must(desk, 'layer.add', { surface: id, name: 'Card', content: { kind: 'colour', colour: '#fff000' }, rect });
      return { falls: layerFalls(set.show, surfaceIn(set), surfaceIn(set).look.layers[0]!), says: texts(set) };
    };
    expect(layer({ x: 0, y: 0, width: 1680, height: 1200 })).toMatchObject({ falls: { off: 0, blended: 0 }, says: [] });
    const gap = layer({ x: 3600, y: 0, width: 1120, height: 32 });
    expect(gap.falls.off).toBeCloseTo(1, 9);
    expect(gap.says).toEqual(['Card lies off every screen: nobody sees it.']);
    const half = layer({ x: 3600, y: 32, width: 1120, height: 1000 });
    expect(half.falls.off).toBeCloseTo(0.5, 9);
    expect(half.says).toEqual(['50 % of Card falls between or beside the screens.']);
    expect(layer({ x: 1560, y: 0, width: 240, height: 100 }).says).toEqual(['50 % of Card lies on a blend.']);
  });

  it('is found in a picture made for the venue, with both numbers and a press', () => {
    const { desk, id } = pier();
    const surface = surfaceIn(desk);
    const rects = surface.screens.map((s) => s.rect);
    expect(contentFindings(surface, { name: 'Template', width: 5120, height: 1600 }, rects)).toEqual([]);
    const moved = rects.map((r, i) => (i === 4 ? { ...r, x: 4170 } : r));
    const [found] = contentFindings(surface, { name: 'Template', width: 5120, height: 1600 }, moved);
    expect(found?.text).toBe('Sail is at 4160,32 896×1536; Template has it at 4170,32 896×1536.');
    const mended = must(desk, found!.fixes[0]!.command.type, found!.fixes[0]!.command.args);
    expect(contentFindings(surfaceIn(mended), { name: 'Template', width: 5120, height: 1600 }, moved)).toEqual([]);
    // Projectors drawn as one area, or in pieces, are right too.
    const wall = { x: 0, y: 0, width: 3600, height: 1200 };
    expect(contentFindings(surface, { name: 'Template', width: 5120, height: 1600 }, [wall, ...rects.slice(2)])).toEqual([]);
    const [size] = contentFindings(surface, { name: 'Loop', width: 5000, height: 1600 }, rects);
    expect(size?.text).toBe('Loop is 5000×1600, the canvas 5120×1600.');
    const more = contentFindings(surface, { name: 'Template', width: 5120, height: 1600 }, [
      ...rects.slice(0, 4),
      { x: 3700, y: 0, width: 200, height: 200 },
    ]);
    expect(more.map((f) => f.text)).toEqual([
      'Template shows no area for Sail at 4160,32 896×1536.',
      'Template has an area at 3700,0 200×200 that is no screen.',
    ]);
    expect(id).not.toBe('');
  });
});

describe('a background of another size than the canvas', () => {
  it('is said with both numbers, once its size is known', () => {
    const { desk, id } = pier();
    const still = must(desk, 'source.add', {
      name: 'Loop',
      settings: { kind: 'still', assetId: 'asset-1', fileName: 'loop.png', hasAlpha: false },
    });
    const source = still.show.sources.at(-1)!.id;
    const set = must(still, 'layer.background', { surface: id, content: { kind: 'source', id: source } });
    expect(surfaceFindings(set.show, surfaceIn(set))).toEqual([]);
    const [found] = surfaceFindings(set.show, surfaceIn(set), { [source]: { width: 5000, height: 1600 } });
    expect(found?.text).toBe('The background Loop is 5000×1600, the canvas 5120×1600: it is scaled and cut.');
    const mended = must(set, found!.fixes[0]!.command.type, found!.fixes[0]!.command.args);
    expect(surfaceFindings(mended.show, surfaceIn(mended), { [source]: { width: 5000, height: 1600 } }).map((f) => f.text)).not.toContain(
      found!.text,
    );
    expect(surfaceFindings(set.show, surfaceIn(set), { [source]: { width: 5120, height: 1600 } })).toEqual([]);
  });
});

describe('a source that was planned before it came', () => {
  it('is said with both sizes when it comes otherwise, where it is used', () => {
    const { desk, id } = pier();
    const planned = must(desk, 'source.edit', { source: 'a', expects: { width: 1920, height: 1080 } });
    const sizes = { a: { width: 1280, height: 800 } };
    expect(surfaceFindings(planned.show, surfaceIn(planned), sizes)).toEqual([]);
    const used = must(planned, 'layer.background', { surface: id, content: { kind: 'source', id: 'a' } });
    const [found] = surfaceFindings(used.show, surfaceIn(used), sizes);
    expect(found?.text).toMatch(/was planned as 1920×1080 and has come as 1280×800, of another shape\.$/);
    for (const { command } of found!.fixes) {
      const mended = must(used, command.type, command.args);
      expect(surfaceFindings(mended.show, surfaceIn(mended), sizes)).toEqual([]);
    }
    expect(surfaceFindings(used.show, surfaceIn(used), { a: { width: 1920, height: 1080 } })).toEqual([]);
  });
});

describe('how the wall looks', () => {
  const blend = { curve: 'smooth' as const, gamma: 2.2, lift: 0 };

  it('is even where blended projectors overlap, and brighter where they are not blended; dark beside all screens', () => {
    const { desk } = pier();
    const surface = surfaceIn(desk);
    const view = { x: 0, y: 0, width: 5120, height: 1600 };
    const seen = (on: boolean) => {
      const data = new Uint8ClampedArray(64 * 20 * 4).fill(128);
      asWall(data, { x: 0, y: 0, width: 64, height: 20, stride: 64 }, { screens: surface.screens, blend }, view, on);
      return (x: number, y: number) => data[(y * 64 + x) * 4] as number;
    };
    const [on, off] = [seen(true), seen(false)];
    // Left alone, the overlap, the gap to the sail, the sail.
    expect(Math.abs(on(5, 5) - on(22, 5))).toBeLessThanOrEqual(1);
    expect(off(22, 5)).toBeGreaterThan(off(5, 5) + 30);
    expect([on(48, 5), off(48, 5)]).toEqual([0, 0]);
    expect(on(57, 5)).toBe(on(5, 5));
  });

  it('adds the light that is left in black, which the lift makes even', () => {
    const [one, two] = [seenSignal(1, blend, true), seenSignal(2, blend, true)];
    expect(two[0]).toBeGreaterThan(one[0] as number);
    // A lift as high as what the second projector adds.
    const lift = 0.001 ** (1 / 2.2);
    expect(Math.abs((seenSignal(1, { ...blend, lift }, true)[0] as number) - (two[0] as number))).toBeLessThanOrEqual(1);
    expect([...seenSignal(0, blend, true)].every((v) => v === 0)).toBe(true);
    expect(seenSignal(0x11, blend, true)[255]).toBe(255);
  });
});

describe('areas of a picture', () => {
  const WIDTH = 480;
  const HEIGHT = 240;
  type Drawn = { rect: Rect; colour: [number, number, number]; frame: boolean };

  function draw(areas: readonly Drawn[], noise: number, words = true): Uint8ClampedArray {
    const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4);
    let seed = 7;
    const dice = () => ((seed = (seed * 1103515245 + 12345) % 2147483648), seed / 2147483648 - 0.5);
    const put = (x: number, y: number, [r, g, b]: readonly number[]) =>
      data.set([r! + dice() * noise, g! + dice() * noise, b! + dice() * noise, 255], (y * WIDTH + x) * 4);
    for (let y = 0; y < HEIGHT; y += 1) for (let x = 0; x < WIDTH; x += 1) put(x, y, [16, 26, 28]);
    for (const { rect, colour, frame } of areas)
      for (let y = rect.y; y < rect.y + rect.height; y += 1)
        for (let x = rect.x; x < rect.x + rect.width; x += 1) {
          const edge = Math.min(x - rect.x, y - rect.y, rect.x + rect.width - 1 - x, rect.y + rect.height - 1 - y);
          if (!frame || edge < 3) put(x, y, colour);
          // A name in the middle of it, of another colour.
          else if (words && Math.abs(x - rect.x - rect.width / 2) < rect.width / 6 && Math.abs(y - rect.y - rect.height / 2) < 3)
            put(x, y, [240, 240, 240]);
        }
    return data;
  }

  it('are found to the pixel, filled or as frames, drawn clean or with noise', () => {
    const side = fc.integer({ min: 24, max: 150 });
    const area = fc.record({
      rect: fc
        .tuple(fc.integer({ min: 0, max: WIDTH - 25 }), fc.integer({ min: 0, max: HEIGHT - 25 }), side, side)
        .map(([x, y, width, height]) => ({ x, y, width: Math.min(width, WIDTH - x), height: Math.min(height, HEIGHT - y) })),
      colour: fc.constantFrom<[number, number, number][]>([200, 60, 60], [60, 160, 220], [90, 200, 90], [220, 200, 80]),
      frame: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(area, { minLength: 1, maxLength: 5 }), fc.constantFrom(0, 12, 24), (areas, noise) => {
        // Apart from each other, as screens that are not blended are.
        const apart = areas.filter((a, i) =>
          areas
            .slice(0, i)
            .every((b) => !intersect({ x: a.rect.x - 6, y: a.rect.y - 6, width: a.rect.width + 12, height: a.rect.height + 12 }, b.rect)),
        );
        const found = findAreas(draw(apart, noise), WIDTH, HEIGHT);
        const key = (r: Rect) => `${r.x},${r.y} ${r.width}×${r.height}`;
        expect(found.map(key).sort()).toEqual(apart.map((a) => key(a.rect)).sort());
      }),
      { numRuns: 60, seed: 3 },
    );
  });

  it('that touch are told apart by their colours; nothing is found where nothing is', () => {
    const two: Drawn[] = [
      { rect: { x: 20, y: 20, width: 100, height: 60 }, colour: [200, 60, 60], frame: false },
      { rect: { x: 120, y: 20, width: 80, height: 60 }, colour: [60, 160, 220], frame: false },
    ];
    expect(findAreas(draw(two, 10), WIDTH, HEIGHT)).toEqual(two.map((t) => t.rect));
    // A strip of the ground beside an area that reaches from edge to edge is none.
    const parted: Drawn[] = [
      { rect: { x: 0, y: 0, width: 360, height: 180 }, colour: [60, 160, 220], frame: false },
      { rect: { x: 390, y: 0, width: 80, height: HEIGHT }, colour: [200, 60, 60], frame: false },
    ];
    expect(findAreas(draw(parted, 10), WIDTH, HEIGHT)).toEqual(parted.map((t) => t.rect));
    expect(findAreas(draw([], 24), WIDTH, HEIGHT)).toEqual([]);
    expect(findAreas(new Uint8ClampedArray(4), 1, 1)).toEqual([]);
  });

  it('are found to the pixel in a picture that is looked at coarsely, of 8K', () => {
    const [width, height] = [7680, 4320];
    const data = new Uint32Array(width * height).fill(0xff1c1a10);
    const rects = [
      { x: 101, y: 203, width: 1921, height: 1199 },
      { x: 5003, y: 77, width: 895, height: 3001 },
      { x: 33, y: 4000, width: 4000, height: 257 },
    ];
    for (const r of rects) for (let y = r.y; y < r.y + r.height; y += 1) data.fill(0xff60c080, y * width + r.x, y * width + r.x + r.width);
    expect(findAreas(new Uint8ClampedArray(data.buffer), width, height)).toEqual([rects[1], rects[0], rects[2]]);
  });
});
