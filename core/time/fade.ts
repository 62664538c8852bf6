/** Fades as data: where one began, and its level at any frame. */

/** A fade between 0 and 1 that began at `start` from `from` and takes `frames`. */
export interface Fade {
  from: number;
  to: 0 | 1;
  start: number;
  frames: number;
}

export const restingFade = (level: 0 | 1): Fade => ({ from: level, to: level, start: 0, frames: 0 });

/** Level of a fade at `frame`, 0 to 1. Linear; a fade of no frames is at its end at once. */
export function fadeLevel(fade: Fade, frame: number): number {
  if (fade.frames <= 0) return frame >= fade.start ? fade.to : fade.from;
  const share = Math.min(1, Math.max(0, (frame - fade.start) / fade.frames));
  return fade.from + (fade.to - fade.from) * share;
}

/** A fade to `to` that starts at `frame` from wherever `fade` is then; a full way takes `frames`. One that is on its way there goes on as it does. */
export function turnFade(fade: Fade, to: 0 | 1, frame: number, frames: number): Fade {
  if (fade.to === to && frame < fade.start + fade.frames && frame >= fade.start) return fade;
  const from = fadeLevel(fade, frame);
  return { from, to, start: frame, frames: Math.round(frames * Math.abs(to - from)) };
}
