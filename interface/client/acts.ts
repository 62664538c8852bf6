/** What rooms do themselves when an action asks for it: choosing, going, typing. What changes the show is a command instead. */
import { type ActionArgs } from '#core/control/action';
import { type RoomId } from '#core/control/rooms';
import { type ShowClient } from '#engine/client/show-client';

/** What an act may use. */
export interface ActWorld {
  client: ShowClient;
  send: (type: string, args?: Record<string, unknown>) => boolean;
  /** Opens a room. */
  go: (room: RoomId) => void;
}

export type Acts = Readonly<Record<string, (world: ActWorld, args: ActionArgs) => void>>;
