/** What this page may do: everything where the show runs, what the pass says on a panel. */
import { useSyncExternalStore } from 'react';
import { ROOM_IDS, type RoomId } from '#core/control/rooms';
import { maySee, mayWork, type Pass } from '#core/panels/pass';
import { useShowClient } from './show-client';

function usePass(): Pass | null {
  const { panel } = useShowClient();
  return useSyncExternalStore(
    (changed) => panel?.subscribe(changed) ?? (() => undefined),
    () => panel?.getState().pass ?? null,
  );
}

/** True when this page may work a room. */
export function useWorks(room: RoomId): boolean {
  const { panel } = useShowClient();
  const pass = usePass();
  return panel === null || (pass !== null && mayWork(pass, room));
}

/** The rooms that this page may see. */
export function useRooms(): readonly RoomId[] {
  const pass = usePass();
  return pass ? ROOM_IDS.filter((r) => maySee(pass, r)) : ROOM_IDS;
}
