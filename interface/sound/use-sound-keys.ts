/** The keys of the room Sound. */
import { useEffect } from 'react';
import { channelsOf } from '#core/sound/channels';
import { FADER_FLOOR_DB, FADER_TOP_DB } from '#core/sound/level';
import { useShowClient, useSend } from '../client/show-client';
import { setSoundRoom, stripRoom, useSoundRoom } from './room-state';

/** Keys of the room Sound, for its sheet. */
export const SOUND_KEYS: readonly (readonly [string, string])[] = [
  ['1 … 9', 'Choose that strip of the bank'],
  ['← →', 'The strip before, the strip after'],
  ['Page Up, Down', 'The bank before, the bank after'],
  ['↑ ↓', 'Fader of the chosen strip by 1 dB, with Shift by 10, with Alt by 0.1'],
  ['0', 'Fader of the chosen strip to 0 dB'],
  ['M', 'Mute the chosen strip'],
  ['S', 'Solo it; with Shift before its fader'],
  ['P', 'Its sound follows its picture, or not'],
  ['Escape', 'Clear all solos'],
  ['X', 'Matrix, or strips'],
  ['C  L  H  O  U', 'Channel, listeners, patch, routing, loudness'],
  [
    'Key left of 1, held',
    'Talk to the guests, in every room; with Shift to the people in the room, with Alt to the one marked under Listeners',
  ],
  ['Ctrl Z', 'Undo; with Shift redo'],
];

const TABS = { KeyC: 'channel', KeyL: 'listeners', KeyH: 'patch', KeyO: 'routing', KeyU: 'loudness' } as const;

/** Keys of this room while it is mounted. */
export function useSoundKeys(): void {
  const host = useShowClient();
  const send = useSend();
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        event.defaultPrevented ||
        target.closest('input:not([type=checkbox]):not([type=range]), textarea, select, [role=dialog], [role=alertdialog]')
      )
        return;
      const { show, air } = host.state.desk;
      const { chosen, first, fits, view } = useSoundRoom.getState();
      const channels = channelsOf(show);
      const strips = [...channels, ...show.sound.buses];
      const at = strips.findIndex((s) => s.id === chosen);
      const bus = show.sound.buses.find((b) => b.id === chosen);
      const channel = channels.find((c) => c.id === chosen);
      const faderDb = bus?.faderDb ?? channel?.sound.faderDb;
      const fader = (db: number) => {
        const value = Math.min(FADER_TOP_DB, Math.max(FADER_FLOOR_DB, Math.round(db * 10) / 10));
        if (bus) send('sound.setBus', { bus: bus.id, faderDb: value });
        else if (channel) send('sound.setFader', { channel: channel.id, db: value });
      };
      const choose = (index: number) => {
        const strip = strips[Math.min(strips.length - 1, Math.max(0, index))];
        if (!strip) return;
        const place = channels.findIndex((c) => c.id === strip.id);
        const room = stripRoom(fits, show.sound.buses.length).channels;
        const bank = place < 0 || (place >= first && place < first + room) ? first : place < first ? place : place - room + 1;
        setSoundRoom({ chosen: strip.id, first: bank });
      };
      /** A bank further or back; its first strip is chosen. */
      const turn = (banks: number) => {
        const room = stripRoom(fits, show.sound.buses.length).channels;
        const start = Math.min(Math.max(0, channels.length - room), Math.max(0, first + banks * room));
        setSoundRoom({ first: start, chosen: channels[start]?.id ?? chosen });
      };
      const step = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
      const ctrl = event.ctrlKey || event.metaKey;
      const digit = /^Digit([1-9])$/.exec(event.code);
      const act = (): boolean => {
        if (ctrl && event.code === 'KeyZ') return send(event.shiftKey ? 'history.redo' : 'history.undo') || true;
        if (ctrl) return false;
        if (digit) choose(first + Number(digit[1]) - 1);
        else if (event.code === 'ArrowLeft') choose(at < 0 ? 0 : at - 1);
        else if (event.code === 'ArrowRight') choose(at < 0 ? 0 : at + 1);
        else if (event.code === 'PageUp') turn(-1);
        else if (event.code === 'PageDown') turn(1);
        else if (event.code === 'ArrowUp' && faderDb !== undefined) fader(faderDb + step);
        else if (event.code === 'ArrowDown' && faderDb !== undefined) fader(faderDb - step);
        else if (event.code === 'Digit0') fader(0);
        else if (event.repeat) return false;
        else if (event.code === 'KeyM' && bus) send('sound.setBus', { bus: bus.id, muted: !bus.muted });
        else if (event.code === 'KeyM' && channel) send('sound.mute', { channel: channel.id });
        else if (event.code === 'KeyS' && chosen) send('sound.solo', { channel: chosen, tap: event.shiftKey ? 'before' : 'after' });
        else if (event.code === 'KeyP' && channel) send('sound.follow', { channel: channel.id });
        else if (event.code === 'Escape' && air.sound.solos.length > 0) send('sound.clearSolo');
        else if (event.code === 'KeyX') setSoundRoom({ view: view === 'matrix' ? 'strips' : 'matrix' });
        else if (event.code in TABS && !event.altKey) setSoundRoom({ tab: TABS[event.code as keyof typeof TABS] });
        else return false;
        return true;
      };
      if (act()) event.preventDefault();
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, [host, send]);
}
