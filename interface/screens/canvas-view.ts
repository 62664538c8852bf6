/** The part of a canvas that is seen: zoom and pan, in pixels of the canvas. */
import { type Point, type Rect } from '#core/show/geometry';

/** Room around the canvas, share of its longer side: screens may reach over it. */
const AROUND = 0.03;
const CLOSEST = 40;

/** All of a canvas, in the shape of the room that it is seen in. */
export function wholeView(canvas: { width: number; height: number }, room: { width: number; height: number }): Rect {
  const margin = Math.max(canvas.width, canvas.height) * AROUND;
  const scale = Math.max((canvas.width + 2 * margin) / room.width, (canvas.height + 2 * margin) / room.height);
  const [width, height] = [room.width * scale, room.height * scale];
  return { x: (canvas.width - width) / 2, y: (canvas.height - height) / 2, width, height };
}

/** A view in the shape of the room, about its middle. */
export function inShape(view: Rect, room: { width: number; height: number }): Rect {
  const scale = Math.max(view.width / room.width, view.height / room.height);
  const [width, height] = [room.width * scale, room.height * scale];
  return { x: view.x + (view.width - width) / 2, y: view.y + (view.height - height) / 2, width, height };
}

/** Nearer or farther by a factor, about a point that stays where it is. Null when all is seen again. */
export function zoomed(view: Rect, by: number, at: Point, whole: Rect): Rect | null {
  const width = Math.max(CLOSEST, view.width * by);
  if (width >= whole.width) return null;
  const factor = width / view.width;
  return { x: at.x - (at.x - view.x) * factor, y: at.y - (at.y - view.y) * factor, width, height: view.height * factor };
}
