/** Lets hands-on controllers work the show in every room. */
import { useEffect } from 'react';
import { type ControlEvent, gather, meaningOf } from '#core/control/control';
import { deckPlace } from '#core/replay/deck';
import { formatTimecode } from '#core/time/timecode';
import { type ControlDriver } from '#engine/control/driver';
import { tellPanels } from '#engine/control/panel-channel';
import { useShowClient, useSend } from '../client/show-client';
import { useRoom } from '../replay/room-state';
import { useAct } from '../replay/use-actions';
import { behindText } from '../replay/words';
import { bindingOf, useControls } from './bindings';

/** Listens to every controller while a show is open: each event becomes the command or action that is bound to it. */
export function useControllers(drivers: readonly ControlDriver[]): void {
  const host = useShowClient();
  const send = useSend();
  const act = useAct();
  useEffect(() => {
    const waiting = new Map<string, ControlEvent[]>();
    let asked = false;
    const work = () => {
      asked = false;
      for (const [device, events] of waiting) {
        waiting.delete(device);
        for (const event of gather(events)) {
          const binding = bindingOf(device, event.id);
          const meaning = binding && meaningOf(binding, event, useRoom.getState().deck);
          if (meaning?.kind === 'action') act(meaning.id);
          else if (meaning) send(meaning.type, meaning.args);
        }
      }
    };
    const ends = drivers.map((driver) =>
      driver.open(
        (event) => {
          const last = useControls.getState().last;
          if (last?.device !== driver.id || last.control !== event.id)
            useControls.setState({ last: { device: driver.id, control: event.id, kind: event.kind } });
          waiting.set(driver.id, [...(waiting.get(driver.id) ?? []), event]);
          if (asked) return;
          asked = true;
          queueMicrotask(work);
        },
        (words) => useControls.setState(({ states }) => ({ states: { ...states, [driver.id]: words } })),
      ),
    );
    const silence = tellPanels(() => {
      const {
        desk: { show, air },
        frame,
      } = host.state;
      const { deck } = useRoom.getState();
      const place = deckPlace(air.replay.decks[deck], air.replay, frame, show.rate);
      return {
        deck,
        live: place.live,
        sign: place.live ? 'LIVE' : behindText(frame - place.position, show.rate),
        code: formatTimecode(Math.floor(place.position), show.rate),
        speed: air.replay.decks[deck].speed,
      };
    });
    return () => {
      ends.forEach((end) => end());
      silence();
    };
  }, [drivers, host, send, act]);
}
