/** Finding windows in large artwork, in the worker that the app uses. */
import { findWindowsIn } from '#engine/picture/find-shapes';
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
