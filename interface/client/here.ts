/** The room that is open, and what is open over it. Set by the shell; read by keys, hints and rooms. */
import { create } from 'zustand';
import { roomOfPath, type RoomId } from '#core/control/rooms';

interface Here {
  room: RoomId;
  /** The finder, the sheet of keys, the list of notices, the list of rooms. */
  open: 'finder' | 'keys' | 'notices' | 'rooms' | null;
}

export const useHere = create<Here>(() => ({ room: 'desk', open: null }));

/** The room of the address: it is there before the room is drawn, so that a key pressed right after a change of rooms means the new one. */
export const roomNow = (): RoomId => roomOfPath(window.location.pathname);

/** Opens one of the shell's own panels; null closes it. */
export const openPanel = (open: Here['open']): void => useHere.setState({ open });
