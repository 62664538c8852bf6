/** Does actions: from keys, controllers, buttons and the finder alike. */
import { useCallback, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { type ActionArgs, type Hands, type Meaning } from '#core/control/action';
import { findAction } from '#core/control/actions';
import { type RoomId } from '#core/control/rooms';
import { type ShowClient } from '#engine/client/show-client';
import { type ActWorld } from '../client/acts';
import { roomNow } from '../client/here';
import { say } from '../client/say';
import { useSend, useShowClient } from '../client/show-client';
import { useGuestsRoom } from '../guests/room-state';
import { chosenGraphics } from '../graphics/room-state';
import { openLayout, useLayoutsRoom } from '../layouts/room-state';
import { chosenClips, targetReel } from '../replay/acts';
import { useRoom } from '../replay/room-state';
import { bankOf } from '../sound/acts';
import { useSoundRoom } from '../sound/room-state';
import { doAct } from './acts';

/** What actions work on now. */
export function handsOf(client: ShowClient): Hands {
  const { desk, frame } = client.state;
  const { show } = desk;
  const { chosen: strip, view } = useSoundRoom.getState();
  const { openId, chosen: boxes } = useLayoutsRoom.getState();
  return {
    desk,
    frame,
    chosen: {
      room: roomNow(),
      deck: useRoom.getState().deck,
      clips: chosenClips(show).map((c) => c.id),
      targetReel: targetReel(show),
      strip,
      bank: bankOf(show),
      matrix: view === 'matrix',
      layout: openLayout(show, openId)?.id ?? null,
      boxes,
      ...chosenGraphics(show),
      guest: useGuestsRoom.getState().guest,
      comment: useGuestsRoom.getState().comment,
    },
  };
}

/** What acts may use: the same object as long as the show is open, so that controllers and keys are not taken up anew with every room. */
export function useWorld(): ActWorld {
  const client = useShowClient();
  const send = useSend();
  const navigate = useNavigate();
  return useMemo(
    () => ({
      client,
      send,
      go: (room: RoomId) => void (roomNow() !== room && navigate(`/${client.panel ? 'crew' : 'show'}/${client.showId}/${room}`)),
    }),
    [client, send, navigate],
  );
}

/** Does what an action has come to. */
export function perform(world: ActWorld, meaning: Meaning): void {
  if (meaning.kind === 'command') world.send(meaning.type, meaning.args);
  else if (meaning.kind === 'act') doAct(world, meaning.id, meaning.args);
  else say.caution(meaning.text, { id: 'hands' });
}

/** Does an action by its name, as its key would; a button that asks for a hold has been held. */
export function useDo(): (id: string, args?: ActionArgs) => void {
  const world = useWorld();
  return useCallback(
    (id, args = {}) => {
      const action = findAction(id);
      if (action?.takes === 'press') perform(world, action.run(handsOf(world.client), args));
    },
    [world],
  );
}
