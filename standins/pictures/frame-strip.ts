/**
 * The burned-in time once more, for machines: cells of light and dark under the written one. 24 bits of the frame number,
 * highest first, 3 of the camera, and one of parity, so that a test can say which frame of which camera it sees.
 */
import { SIMULATED_CAMERAS, type SimulatedCamera } from '#core/show/source';

const FRAME_BITS = 24;
const CAMERA_BITS = 3;
const CELLS = FRAME_BITS + CAMERA_BITS + 1;

/** Where the strip lies on a stage of 640×360. */
export const STRIP = { x: 17, y: 34, cell: 8, height: 8 };

const parity = (bits: boolean[]): boolean => bits.filter(Boolean).length % 2 === 1;

function bitsOf(camera: SimulatedCamera, frame: number): boolean[] {
  const value = (frame % 2 ** FRAME_BITS) * 2 ** CAMERA_BITS + SIMULATED_CAMERAS.indexOf(camera);
  const bits = Array.from(
    { length: FRAME_BITS + CAMERA_BITS },
    (_, i) => Math.floor(value / 2 ** (FRAME_BITS + CAMERA_BITS - 1 - i)) % 2 === 1,
  );
  return [...bits, parity(bits)];
}

/** Draws the strip on a stage of 640×360. */
export function drawStrip(
  c: { fillStyle: unknown; fillRect(x: number, y: number, width: number, height: number): void },
  camera: SimulatedCamera,
  frame: number,
): void {
  const { x, y, cell, height } = STRIP;
  c.fillStyle = '#0a1012';
  c.fillRect(x - 7, y, CELLS * cell + 14, height + 3);
  c.fillStyle = '#f4f7f2';
  bitsOf(camera, frame).forEach((bit, i) => bit && c.fillRect(x + i * cell, y, cell, height));
}

/**
 * Reads the strip of a picture. `luma` gives the brightness, 0 to 255, at a place of the stage. Null when it is not there
 * or cannot be trusted.
 */
export function readStrip(luma: (x: number, y: number) => number): { camera: SimulatedCamera; frame: number } | null {
  const { x, y, cell, height } = STRIP;
  const levels = Array.from({ length: CELLS }, (_, i) => luma(x + (i + 0.5) * cell, y + height / 2));
  if (levels.some((l) => l > 90 && l < 150) || levels.every((l) => l <= 90)) return null;
  const bits = levels.map((l) => l >= 150);
  if (parity(bits.slice(0, -1)) !== bits.at(-1)) return null;
  const value = bits.slice(0, -1).reduce((sum, bit) => sum * 2 + Number(bit), 0);
  const camera = SIMULATED_CAMERAS[value % 2 ** CAMERA_BITS];
  return camera ? { camera, frame: Math.floor(value / 2 ** CAMERA_BITS) } : null;
}
