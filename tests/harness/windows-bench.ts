/** Finding openings in large artwork, and areas in large pictures made for a venue, in the worker that the app uses. */
import { findAreasIn, findWindowsIn } from '#engine/picture/find-shapes';
import { median } from './mixer-bench';

export interface WindowsFigures {
  found: number;
  /** Milliseconds in the worker from the decoded picture to the rectangles: median and slowest. */
  median: number;
  slowest: number;
  /** Milliseconds from the file to the answer, with decoding and the start of the worker: median. */
  whole: number;
}

/** Artwork of `width` × `height` with three openings, one of them round, and soft edges. */
async function artwork(width: number, height: number): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  const c = canvas.getContext('2d');
  if (!c) throw new Error('no canvas');
  const cloth = c.createLinearGradient(0, 0, width, height);
  cloth.addColorStop(0, '#123a4d');
  cloth.addColorStop(1, '#e2c48d');
  c.fillStyle = cloth;
  c.fillRect(0, 0, width, height);
  c.globalCompositeOperation = 'destination-out';
  c.shadowColor = '#000';
  c.shadowBlur = 6;
  c.beginPath();
  c.roundRect(width * 0.05, height * 0.1, width * 0.4, height * 0.5, 60);
  c.roundRect(width * 0.5, height * 0.1, width * 0.45, height * 0.35, 60);
  c.fill();
  c.beginPath();
  c.arc(width * 0.7, height * 0.72, height * 0.2, 0, 2 * Math.PI);
  c.fill();
  return canvas.convertToBlob({ type: 'image/png' });
}

export async function benchWindows(width: number, height: number, rounds: number): Promise<WindowsFigures> {
  const file = await artwork(width, height);
  const times: number[] = [];
  const wholes: number[] = [];
  let found = 0;
  for (let i = 0; i < rounds; i += 1) {
    const started = performance.now();
    const answer = await findWindowsIn(file);
    found = answer.windows.length;
    times.push(answer.findMs);
    wholes.push(performance.now() - started);
  }
  return { found, median: median(times), slowest: Math.max(...times), whole: median(wholes) };
}

/** A template of `width` × `height` with areas of several colours, names in them, a frame, and the noise of compression. */
async function template(width: number, height: number): Promise<Blob> {
  const canvas = new OffscreenCanvas(width, height);
  const c = canvas.getContext('2d');
  if (!c) throw new Error('no canvas');
  c.fillStyle = '#101a1c';
  c.fillRect(0, 0, width, height);
  c.font = `${Math.round(height / 30)}px sans-serif`;
  for (let i = 0; i < 12; i += 1) {
    const [x, y] = [width * (0.03 + 0.24 * (i % 4)), height * (0.05 + 0.32 * Math.floor(i / 4))];
    c.fillStyle = `hsl(${i * 30} 50% 45%)`;
    if (i % 3 === 2) {
      c.lineWidth = 12;
      c.strokeStyle = c.fillStyle;
      c.strokeRect(Math.round(x) + 6, Math.round(y) + 6, Math.round(width * 0.2) - 12, Math.round(height * 0.26) - 12);
    } else c.fillRect(Math.round(x), Math.round(y), Math.round(width * 0.2), Math.round(height * 0.26));
    c.fillStyle = '#e8efe9';
    c.fillText(`Screen ${i + 1}`, x + width * 0.05, y + height * 0.14);
  }
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
}

/** Areas of a picture; from its pixels to the rectangles, milliseconds. */
export async function benchAreas(width: number, height: number, rounds: number): Promise<WindowsFigures> {
  const file = await template(width, height);
  const times: number[] = [];
  const wholes: number[] = [];
  let found = 0;
  for (let i = 0; i < rounds; i += 1) {
    const started = performance.now();
    const answer = await findAreasIn(file);
    found = answer.areas.length;
    times.push(answer.findMs);
    wholes.push(performance.now() - started);
  }
  return { found, median: median(times), slowest: Math.max(...times), whole: median(wholes) };
}
