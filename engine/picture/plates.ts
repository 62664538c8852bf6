/** Pictures drawn by the app itself: the placeholder of a source that has stopped, bars. */
import semibold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-600-normal.woff2?url';
import regular from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff2?url';

const FAMILY = 'Bivoca Plate';

type Context = OffscreenCanvasRenderingContext2D;

/** Loads the faces that plates are set in; without them plates use the system's sans. */
export async function loadPlateFonts(): Promise<void> {
  const faces = [new FontFace(FAMILY, `url(${semibold})`, { weight: '600' }), new FontFace(FAMILY, `url(${regular})`, { weight: '400' })];
  const fonts = (globalThis as unknown as { fonts: { add(face: FontFace): void } }).fonts;
  await Promise.all(faces.map(async (face) => fonts.add(await face.load())));
}

export function plateCanvas(width: number, height: number): { canvas: OffscreenCanvas; context: Context } {
  const canvas = new OffscreenCanvas(Math.max(2, Math.round(width)), Math.max(2, Math.round(height)));
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser gives no 2D canvas in a worker.');
  return { canvas, context };
}

/** Sets `text` at most `width` wide: first smaller, down to 70 %, then cut with an ellipsis. */
function fitText(context: Context, text: string, x: number, y: number, size: number, weight: number, width: number): void {
  const font = (s: number) => `${weight} ${s}px "${FAMILY}", sans-serif`;
  context.font = font(size);
  const natural = context.measureText(text).width;
  if (natural <= width) {
    context.fillText(text, x, y);
    return;
  }
  context.font = font(Math.max(size * 0.7, (size * width) / natural));
  let shown = text;
  while (shown.length > 1 && context.measureText(`${shown}…`).width > width) shown = shown.slice(0, -1);
  context.fillText(shown === text || context.measureText(text).width <= width ? text : `${shown.trimEnd()}…`, x, y);
}

/** Stands for a source that gives no picture: its name, and why. */
export function drawPlaceholder(name: string, cause: string, colour: string, width: number, height: number): OffscreenCanvas {
  const { canvas, context } = plateCanvas(width, height);
  const { width: w, height: h } = canvas;
  context.fillStyle = '#142023';
  context.fillRect(0, 0, w, h);
  context.strokeStyle = '#1b2a2e';
  context.lineWidth = h * 0.05;
  for (let x = -h; x < w + h; x += h * 0.2) {
    context.beginPath();
    context.moveTo(x, h);
    context.lineTo(x + h * 0.6, 0);
    context.stroke();
  }
  context.fillStyle = colour;
  context.fillRect(0, h * 0.34, w * 0.02, h * 0.32);
  context.fillStyle = '#e8efe9';
  context.textBaseline = 'alphabetic';
  fitText(context, name, w * 0.06, h * 0.5, h * 0.14, 600, w * 0.88);
  context.fillStyle = '#a9bcb9';
  fitText(context, cause, w * 0.06, h * 0.63, h * 0.085, 400, w * 0.88);
  return canvas;
}

/** Stands for whoever will sit there: the seat's colour, a head and shoulders, and its name. */
export function drawSeat(name: string, colour: string, width: number, height: number): OffscreenCanvas {
  const { canvas, context } = plateCanvas(width, height);
  const { width: w, height: h } = canvas;
  context.fillStyle = '#1b2a2e';
  context.fillRect(0, 0, w, h);
  context.fillStyle = colour;
  context.globalAlpha = 0.35;
  context.fillRect(0, 0, w, h);
  context.globalAlpha = 1;
  context.beginPath();
  // The eyes of the card are on the upper third, where layouts want them.
  context.ellipse(w / 2, h * 0.36, h * 0.13, h * 0.17, 0, 0, 2 * Math.PI);
  context.fill();
  context.beginPath();
  context.ellipse(w / 2, h * 1.02, h * 0.36, h * 0.4, 0, Math.PI, 2 * Math.PI);
  context.fill();
  context.fillStyle = '#0d1517';
  context.fillRect(0, h * 0.8, w, h * 0.2);
  context.fillStyle = '#e8efe9';
  context.textAlign = 'center';
  context.textBaseline = 'alphabetic';
  fitText(context, name, w / 2, h * 0.93, h * 0.11, 600, w * 0.6);
  return canvas;
}

/** Colour bars, 75 % (the proportions of EBU Tech 3325 / ITU-R BT.801 bars), over a grey ramp for levels. */
export function drawBars(context: Context, width: number, height: number): void {
  const bars = ['#bfbfbf', '#bfbf00', '#00bfbf', '#00bf00', '#bf00bf', '#bf0000', '#0000bf', '#000000'];
  bars.forEach((colour, i) => {
    context.fillStyle = colour;
    const x = Math.round((i * width) / bars.length);
    context.fillRect(x, 0, Math.round(((i + 1) * width) / bars.length) - x, height * 0.75);
  });
  for (let i = 0; i < 11; i += 1) {
    const level = Math.round((i * 255) / 10);
    context.fillStyle = `rgb(${level} ${level} ${level})`;
    const x = Math.round((i * width) / 11);
    context.fillRect(x, height * 0.75, Math.round(((i + 1) * width) / 11) - x, height * 0.25 + 1);
  }
}
