/**
 * Which windows with outputs a show had open, and where they stood. It is kept in this browser and not in the show, as displays are those
 * of this machine; windows that were open when the browser ended are opened again with the show.
 */
import { useEffect, useState } from 'react';
import { isRecord } from '#core/schema/record';
import { type DisplayArea } from './open-window';

/** Where a window stands, in pixels of the desktop. */
export interface WindowPlace extends DisplayArea {
  /** It fills its display. */
  full: boolean;
}

/** How often a window looks where it stands, milliseconds: nothing tells when it is moved. */
const LOOK_MS = 1000;

const openKey = (showId: string): string => `bivoca.windows ${showId}`;
const placeKey = (showId: string, outputId: string): string => `bivoca.window ${showId} ${outputId}`;

function read(key: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as unknown;
  } catch {
    return null;
  }
}

function write(key: string, value: unknown): void {
  try {
    const text = JSON.stringify(value);
    if (localStorage.getItem(key) !== text) localStorage.setItem(key, text);
  } catch {
    // Storage that is full or forbidden: windows are not found again, and all else goes on.
  }
}

/** Outputs whose windows were open when the show was left. */
export function keptWindows(showId: string): string[] {
  const kept = read(openKey(showId));
  return Array.isArray(kept) ? kept.filter((id): id is string => typeof id === 'string').slice(0, 100) : [];
}

export const keepWindows = (showId: string, open: readonly string[]): void => write(openKey(showId), [...new Set(open)].sort());

/** Where the window of an output stood last; null when that is not known. */
export function keptPlace(showId: string, outputId: string): WindowPlace | null {
  const kept = read(placeKey(showId, outputId));
  if (!isRecord(kept)) return null;
  const { left, top, width, height, full } = kept;
  const sides = [left, top, width, height];
  if (!sides.every((n) => typeof n === 'number' && Number.isFinite(n) && Math.abs(n) < 100_000)) return null;
  return { left: left as number, top: top as number, width: width as number, height: height as number, full: full === true };
}

/** Keeps where this window stands, for as long as it is open. It fills its display again if it did when it was closed and the browser lets it. */
export function keepPlace(showId: string, outputId: string): () => void {
  if (keptPlace(showId, outputId)?.full === true) void document.documentElement.requestFullscreen().catch(() => undefined);
  const look = () => {
    const full = document.fullscreenElement !== null;
    const before = keptPlace(showId, outputId);
    // While it fills a display, where it stood before is kept.
    if (full && before) return write(placeKey(showId, outputId), { ...before, full });
    const { screenX: left, screenY: top, innerWidth: width, innerHeight: height } = window;
    return write(placeKey(showId, outputId), { left, top, width, height, full });
  };
  // A window that is not let fill its display at once may be by the first press in it: until then it is as it was.
  const timer = setInterval(look, LOOK_MS);
  return () => clearInterval(timer);
}

/** Where the window of an output stands, followed. */
export function useWindowPlace(showId: string, outputId: string): WindowPlace | null {
  const [place, setPlace] = useState(() => keptPlace(showId, outputId));
  useEffect(() => {
    const look = () => setPlace(keptPlace(showId, outputId));
    look();
    const changed = ({ key }: StorageEvent) => key === placeKey(showId, outputId) && look();
    window.addEventListener('storage', changed);
    return () => window.removeEventListener('storage', changed);
  }, [showId, outputId]);
  return place;
}
