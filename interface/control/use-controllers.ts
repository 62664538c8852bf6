/** Lets hands-on controllers work the show in every room, and lights their lamps. */
import { useEffect } from 'react';
import { actionWords } from '#core/control/action';
import { findAction } from '#core/control/actions';
import { type ControlEvent, ControlReader, gather } from '#core/control/control';
import { layoutInUse } from '#core/control/hands-file';
import { bindingFor } from '#core/control/key-layout';
import { hasLamps, lampsOf } from '#core/control/lamps';
import { asksForHold } from '#core/desk/registry';
import { deckPlace } from '#core/replay/deck';
import { formatTimecode } from '#core/time/timecode';
import { type ControlDriver } from '#engine/control/driver';
import { tellPanels } from '#engine/control/panel-channel';
import { useHands } from '../client/hands';
import { roomNow } from '../client/here';
import { useRoom } from '../replay/room-state';
import { behindText } from '../replay/words';
import { useControls } from './controllers';
import { handsOf, perform, useWorld } from './do';
import { Hold } from './held';

/** Milliseconds between looks at what lamps should show. */
const LAMPS_MS = 100;

/** Listens to every controller while a show is open: each event becomes what is bound to it. */
export function useControllers(drivers: readonly ControlDriver[]): void {
  const world = useWorld();
  useEffect(() => {
    const { client } = world;
    const waiting = new Map<string, ControlEvent[]>();
    const readers = new Map(drivers.map((d) => [d.id, new ControlReader()]));
    const waits = new Map<string, Hold>();
    const layout = () => layoutInUse(useHands.getState());
    const one = (device: string, event: ControlEvent) => {
      const binding = bindingFor(layout(), roomNow(), device, event.id);
      const read = readers.get(device)?.read(binding, event, handsOf(client));
      if (!read) return;
      const { meaning, pressed } = read;
      const key = `${device} ${event.id}`;
      if (!pressed) waits.get(key)?.end();
      if (pressed && meaning.kind === 'command' && asksForHold(client.state.desk, meaning)) {
        const action = binding && findAction(binding.action);
        waits.set(key, new Hold(action ? actionWords(action, binding.args, client.state.desk.show) : '', () => perform(world, meaning)));
      } else perform(world, meaning);
    };
    let asked = false;
    const work = () => {
      asked = false;
      for (const [device, events] of waiting) {
        waiting.delete(device);
        for (const event of gather(events)) one(device, event);
      }
    };
    const shining = new Map<string, boolean>();
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
        (words) => {
          useControls.setState(({ states }) => ({ states: { ...states, [driver.id]: words } }));
          // What has just been plugged in is lit anew.
          for (const key of shining.keys()) if (key.startsWith(`${driver.id} `)) shining.delete(key);
        },
      ),
    );
    const light = ({ id, light: send }: ControlDriver, control: string, on: boolean) => {
      const key = `${id} ${control}`;
      if (shining.get(key) !== on && send?.(control, on)) shining.set(key, on);
    };
    /** Controls of a driver whose lamps this show has lit. */
    const litOn = ({ id }: ControlDriver) =>
      [...shining].flatMap(([key, on]) => (on && key.startsWith(`${id} `) ? [key.slice(id.length + 1)] : []));
    const shine = () => {
      for (const driver of drivers.filter((d) => d.light && (hasLamps(layout(), d.id) || litOn(d).length > 0))) {
        const wanted = lampsOf(layout(), driver.id, handsOf(client));
        // What is bound to something else by now goes out.
        for (const control of litOn(driver)) if (!wanted.has(control)) light(driver, control, false);
        for (const [control, on] of wanted) light(driver, control, on);
      }
    };
    const lamps = drivers.some((d) => d.light) ? setInterval(shine, LAMPS_MS) : undefined;
    const silence = tellPanels(() => {
      const {
        desk: { show, air },
        frame,
      } = client.state;
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
      clearInterval(lamps);
      for (const driver of drivers) for (const control of litOn(driver)) light(driver, control, false);
      ends.forEach((end) => end());
      silence();
    };
  }, [drivers, world]);
}
