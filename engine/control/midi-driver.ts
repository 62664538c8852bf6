/** MIDI controllers through Web MIDI: notes are buttons, controllers are values. */
import { type ControlEvent } from '#core/control/control';
import { type ControlDriver } from './driver';

/** What a MIDI message says; null for those that no control sends. */
export function midiEvent(data: Uint8Array | readonly number[]): ControlEvent | null {
  const [status = 0, number = 0, value = 0] = data;
  const channel = (status & 0x0f) + 1;
  switch (status & 0xf0) {
    case 0x90:
      return { kind: 'button', id: `note-${channel}-${number}`, pressed: value > 0 };
    case 0x80:
      return { kind: 'button', id: `note-${channel}-${number}`, pressed: false };
    case 0xb0:
      return { kind: 'value', id: `cc-${channel}-${number}`, value };
    case 0xe0:
      return { kind: 'lever', id: `bend-${channel}`, value: Math.max(-1, ((value << 7) + number - 8192) / 8191) };
    default:
      return null;
  }
}

/** Lamp of a control: controllers light the key of a note or a controller that is sent back to them. Null for what has no lamp. */
export function midiLamp(control: string, on: boolean): number[] | null {
  const match = /^(note|cc)-(\d{1,2})-(\d{1,3})$/.exec(control);
  if (!match) return null;
  const [channel, number] = [Number(match[2]) - 1, Number(match[3])];
  if (channel < 0 || channel > 15 || number > 127) return null;
  return [(match[1] === 'note' ? 0x90 : 0xb0) | channel, number, on ? 127 : 0];
}

let outputs: () => Iterable<Pick<MIDIOutput, 'send'>> = () => [];

export const midiDriver: ControlDriver = {
  id: 'midi',
  label: 'MIDI controllers',
  light(control, on) {
    const message = midiLamp(control, on);
    let sent = message === null;
    if (message)
      for (const output of outputs()) {
        try {
          output.send(message);
          sent = true;
        } catch {
          // Pulled out this moment: what comes back is lit anew.
        }
      }
    return sent;
  },
  open(listen, state) {
    let access: MIDIAccess | null = null;
    let closed = false;
    const attach = () => {
      if (!access || closed) return;
      const inputs = [...access.inputs.values()];
      for (const input of inputs) {
        input.onmidimessage = ({ data }) => {
          const event = data && midiEvent(data);
          if (event) listen(event);
        };
      }
      state(inputs.length === 0 ? 'none is connected' : inputs.map((i) => i.name ?? 'a controller').join(', '));
    };
    if (!('requestMIDIAccess' in navigator)) state('this browser has no MIDI');
    else {
      navigator.requestMIDIAccess().then(
        (granted) => {
          access = granted;
          granted.onstatechange = attach;
          outputs = () => granted.outputs.values();
          attach();
        },
        () => state('the browser was not allowed to use MIDI: allow it at the address bar'),
      );
    }
    return () => {
      closed = true;
      outputs = () => [];
      for (const input of access?.inputs.values() ?? []) input.onmidimessage = null;
      if (access) access.onstatechange = null;
    };
  },
};
