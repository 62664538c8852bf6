/** What outputs and surfaces show now. */
import { PATTERNS, type Shows, type ShowsFrozen } from './document';
import { type Look, type SurfaceChange } from './surface';

/** What may stand in the place of everything: of one output, or across all screens of a surface. */
export type Over = Extract<Shows, { kind: 'black' | 'test' | 'card' }> | ShowsFrozen;

/** A surface on air. */
export interface AirSurface {
  /** What is seen, as it was when it was taken: later edits wait for the next take. */
  look: Look;
  /** What it came from, while it comes. `start` is a show frame. */
  change: (SurfaceChange & { from: Look; start: number }) | null;
  /** What stands in the place of it, across all of its screens. */
  over: Over | null;
}

/** What covers after a press: the same again takes it away; test pictures go on one after another, and after the last there is none. */
export function coverAfter(now: Over | null, kind: Over['kind']): Over | null {
  if (kind !== 'test') return now?.kind === kind ? null : { kind };
  const pattern = PATTERNS[now?.kind === 'test' ? PATTERNS.indexOf(now.pattern) + 1 : 0];
  return pattern ? { kind, pattern } : null;
}

export interface ScreensAir {
  /** By the identity of the output. */
  over: Record<string, Over>;
  /** By the identity of the surface; one that was never taken is black. */
  surfaces: Record<string, AirSurface>;
}

export const createScreensAir = (): ScreensAir => ({ over: {}, surfaces: {} });

const NOTHING: AirSurface = { look: { background: null, layers: [] }, change: null, over: null };

/** A surface as it is on air; `frame` ends what has come. */
export function surfaceNow({ surfaces }: ScreensAir, id: string, frame: number): AirSurface {
  const now = Object.hasOwn(surfaces, id) ? (surfaces[id] ?? NOTHING) : NOTHING;
  return now.change && frame >= now.change.start + now.change.frames ? { ...now, change: null } : now;
}
