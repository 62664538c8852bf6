/** What is open in the room Settings, and what is chosen of a show's parts; lives as long as the page. */
import { create } from 'zustand';
import { type Decision } from '#core/parts/bring';
import { type ShowPackage } from '#engine/storage/show-package';

export type SettingsTab = 'show' | 'passes' | 'parts' | 'keys' | 'connections' | 'controllers';

interface SettingsRoomState {
  tab: SettingsTab;
  /** Show for which parts are chosen. */
  showId: string | null;
  /** The file whose parts are brought in; null while parts of this show are saved. */
  file: { name: string; content: ShowPackage } | null;
  /** Parts that are chosen, by their keys. */
  chosen: ReadonlySet<string>;
  /** Parts that others need and that stay out all the same. */
  without: ReadonlySet<string>;
  /** What becomes of parts of which something like them is here, where that was said. */
  decided: ReadonlyMap<string, Decision['as']>;
  /** The settings of recording and stream go along. */
  output: boolean;
}

const NOTHING_CHOSEN = { chosen: new Set<string>(), without: new Set<string>(), decided: new Map<string, Decision['as']>(), output: false };

export const useSettingsRoom = create<SettingsRoomState>(() => ({ tab: 'show', showId: null, file: null, ...NOTHING_CHOSEN }));
export const setSettingsRoom = (change: Partial<SettingsRoomState>): void => useSettingsRoom.setState(change);

/** Works on the parts of a file, or of this show again. */
export const workOnParts = (file: SettingsRoomState['file']): void => setSettingsRoom({ file, ...NOTHING_CHOSEN });

/** What was chosen for another show is chosen no more. */
export function workOnPartsOf(showId: string): void {
  if (useSettingsRoom.getState().showId === showId) return;
  workOnParts(null);
  setSettingsRoom({ showId });
}

/** Chooses parts, or chooses them no more. */
export function choosePart(keys: readonly string[], on: boolean): void {
  const chosen = new Set(useSettingsRoom.getState().chosen);
  for (const key of keys) {
    if (on) chosen.add(key);
    else chosen.delete(key);
  }
  setSettingsRoom({ chosen });
}

/** Leaves a part out that others need, or takes it along again. */
export function leaveOut(key: string, out: boolean): void {
  const without = new Set(useSettingsRoom.getState().without);
  if (out) without.add(key);
  else without.delete(key);
  setSettingsRoom({ without });
}

export const decidePart = (key: string, as: Decision['as']): void =>
  setSettingsRoom({ decided: new Map(useSettingsRoom.getState().decided).set(key, as) });
