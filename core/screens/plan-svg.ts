/** The plan of a surface as a drawing: to be printed with all its numbers, or as a template of the canvas's own pixels. SVG 1.1. */
import { type Show } from '../desk/show';
import { intersect } from '../show/geometry';
import { betweenScreens } from './between';
import { lengthWords, type LengthUnit } from './lengths';
import { screenOutput } from './outputs';
import { type Screen, type Surface } from './surface';

const escape = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

const COLOURS = ['#2f6f8f', '#8f5f2f', '#3f7f4f', '#6f4f8f', '#8f3f4f', '#2f7f7f', '#7f7f2f', '#4f5f9f'];

/** Names, outputs and numbers of a screen, line by line. */
export function screenLines(show: Show, surface: Surface, screen: Screen, unit: LengthUnit): string[] {
  const output = screen.outputId === null ? undefined : screenOutput(show, screen.outputId);
  const { rect, area, turn } = screen;
  const length = (pixels: number) => lengthWords(pixels, surface.pitch, unit);
  return [
    `${rect.width}×${rect.height} at ${rect.x},${rect.y}`,
    ...(unit === 'px' ? [] : [`${length(rect.width)} × ${length(rect.height)}`]),
    output
      ? `${output.name}${output.raster ? ` ${output.raster.width}×${output.raster.height}` : ''}${turn === 'none' ? '' : ', turned'}`
      : 'no output',
    ...(area ? [`area ${area.width}×${area.height} at ${area.x},${area.y}`] : []),
  ];
}

/** A drawing to be printed: black on white, with a table of all numbers below. */
export function planSvg(show: Show, surface: Surface, unit: LengthUnit): string {
  const { width, height, screens, name, pitch } = surface;
  const scale = 1000 / Math.max(width, height * 1.6);
  const [w, h] = [width * scale, height * scale];
  const text = (x: number, y: number, words: string, more = '') =>
    `<text x="${x.toFixed(1)}" y="${y.toFixed(1)}" ${more}>${escape(words)}</text>`;
  const drawn = screens.map((screen, i) => {
    const { rect } = screen;
    const [x, y, rw, rh] = [rect.x * scale, rect.y * scale, rect.width * scale, rect.height * scale];
    const size = Math.max(7, Math.min(14, rh / 6, rw / 14));
    const lines = [`${i + 1} ${screen.name}`, ...screenLines(show, surface, screen, unit)];
    return [
      `<rect x="${x.toFixed(2)}" y="${y.toFixed(2)}" width="${rw.toFixed(2)}" height="${rh.toFixed(2)}" fill="none" stroke="#000"/>`,
      ...lines.map((line, n) =>
        text(
          x + rw / 2,
          y + rh / 2 + (n - (lines.length - 1) / 2) * size * 1.25,
          line,
          `font-size="${size.toFixed(1)}" text-anchor="middle"${n === 0 ? ' font-weight="bold"' : ''}`,
        ),
      ),
    ].join('');
  });
  const gaps = betweenScreens(screens).map(({ gap, at }) =>
    gap === 0
      ? ''
      : text(
          at.x * scale,
          at.y * scale,
          `${gap < 0 ? 'overlap' : 'gap'} ${lengthWords(Math.abs(gap), pitch, unit)}`,
          'font-size="7" text-anchor="middle" fill="#b00"',
        ),
  );
  const overlaps = screens.flatMap((a, i) =>
    screens.slice(i + 1).flatMap((b) => {
      const shared = intersect(a.rect, b.rect);
      return shared
        ? [
            `<rect x="${(shared.x * scale).toFixed(2)}" y="${(shared.y * scale).toFixed(2)}" width="${(shared.width * scale).toFixed(2)}" height="${(shared.height * scale).toFixed(2)}" fill="#0001" stroke="#888" stroke-dasharray="3 2"/>`,
          ]
        : [];
    }),
  );
  const rows = screens.map((screen, i) =>
    text(0, h + 56 + i * 13, `${i + 1}  ${screen.name}:  ${screenLines(show, surface, screen, unit).join('  ·  ')}`, 'font-size="9"'),
  );
  const full = h + 70 + screens.length * 13;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-10 -30 ${(w + 20).toFixed(1)} ${(full + 20).toFixed(1)}" font-family="sans-serif">`,
    text(0, -12, `${show.name}: ${name}`, 'font-size="14" font-weight="bold"'),
    `<rect x="0" y="0" width="${w.toFixed(2)}" height="${h.toFixed(2)}" fill="none" stroke="#888" stroke-dasharray="6 3"/>`,
    ...overlaps,
    ...drawn,
    ...gaps,
    text(
      0,
      h + 20,
      `Canvas ${width}×${height} pixels, ${Number(pitch.toFixed(3))} mm a pixel: ${lengthWords(width, pitch, unit === 'px' ? 'm' : unit)} × ${lengthWords(height, pitch, unit === 'px' ? 'm' : unit)}`,
      'font-size="10"',
    ),
    text(0, h + 40, 'Screens', 'font-size="10" font-weight="bold"'),
    ...rows,
    '</svg>',
  ].join('\n');
}

/** A template of the canvas's own pixels: every screen an area of its own colour with its name, to lie under what is made for the venue. */
export function templateSvg(surface: Surface): string {
  const { width, height, screens } = surface;
  const areas = screens.map(({ rect, name }, i) => {
    const size = Math.max(10, Math.min(rect.height / 4, rect.width / 9));
    const [x, y] = [rect.x + rect.width / 2, rect.y + rect.height / 2];
    return [
      `<rect x="${rect.x}" y="${rect.y}" width="${rect.width}" height="${rect.height}" fill="${COLOURS[i % COLOURS.length]}" fill-opacity="0.85" shape-rendering="crispEdges"/>`,
      `<text x="${x}" y="${y}" font-size="${size}" text-anchor="middle" fill="#fff">${escape(`${i + 1} ${name}`)}</text>`,
      `<text x="${x}" y="${y + size}" font-size="${size / 2}" text-anchor="middle" fill="#fff">${rect.width}×${rect.height} at ${rect.x},${rect.y}</text>`,
    ].join('');
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" font-family="sans-serif">`,
    `<rect width="${width}" height="${height}" fill="#101a1c"/>`,
    ...areas,
    '</svg>',
  ].join('\n');
}
