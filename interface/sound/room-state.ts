/** What the operator has chosen in Sound; lives as long as the page. */
import { create } from 'zustand';

/** Share of the width that buses may take beside channels. */
const BUS_SHARE = 0.5;

export type SoundTab = 'channel' | 'listeners' | 'patch' | 'routing' | 'loudness';

interface SoundRoomState {
  view: 'strips' | 'matrix';
  tab: SoundTab;
  /** Channel or bus. */
  chosen: string | null;
  /** First strip of the bank. */
  first: number;
  /** Strips that fit. */
  fits: number;
  cell: { from: string; bus: string } | null;
  /** Listener whose list of sounds is open. */
  listener: string | null;
  /** Bus whose loudness is shown. */
  loudnessBus: string;
}

export const useSoundRoom = create<SoundRoomState>(() => ({
  view: 'strips',
  tab: 'channel',
  chosen: null,
  first: 0,
  fits: 8,
  cell: null,
  listener: null,
  loudnessBus: 'programme',
}));

/** How many buses and channels stand side by side where `fits` strips fit. */
export function stripRoom(fits: number, buses: number): { buses: number; channels: number } {
  const shown = Math.min(buses, Math.max(1, Math.floor(fits * BUS_SHARE)));
  return { buses: shown, channels: Math.max(1, fits - shown) };
}

export const setSoundRoom = (change: Partial<SoundRoomState>): void => useSoundRoom.setState(change);
