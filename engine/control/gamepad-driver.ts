/** Game pads: buttons and sticks, asked for as often as pictures are shown. */
import { type ControlDriver } from './driver';

const POLL_MS = 16;
/** A stick that moves less is left alone. */
const STEP = 0.02;

export const gamepadDriver: ControlDriver = {
  id: 'gamepad',
  label: 'Game pads',
  open(listen, state) {
    const buttons = new Map<string, boolean>();
    const axes = new Map<string, number>();
    let words = '';
    const poll = () => {
      const pads = navigator.getGamepads().filter((p) => p !== null);
      const now = pads.length === 0 ? 'none is connected; press a button on it' : pads.map((p) => p.id).join(', ');
      if (now !== words) state((words = now));
      for (const pad of pads) {
        pad.buttons.forEach(({ pressed }, i) => {
          const key = `${pad.index} ${i}`;
          if ((buttons.get(key) ?? false) !== pressed) listen({ kind: 'button', id: `button-${i}`, pressed });
          buttons.set(key, pressed);
        });
        pad.axes.forEach((value, i) => {
          const key = `${pad.index} ${i}`;
          const before = axes.get(key) ?? 0;
          if (Math.abs(before - value) < STEP && !(value === 0 && before !== 0)) return;
          axes.set(key, value);
          listen({ kind: 'lever', id: `axis-${i}`, value });
        });
      }
    };
    const timer = setInterval(poll, POLL_MS);
    return () => clearInterval(timer);
  },
};
