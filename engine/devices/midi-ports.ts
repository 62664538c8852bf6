/** MIDI ports of this machine as devices: messages in words go out, what comes in is told in words. */
import { midiWords, readMidi } from '#core/devices/midi-words';
import { causeOf } from '#core/schema/cause';
import { type SendResult } from './device-line';

/** The names of the ports that there are. */
export interface MidiPortNames {
  outputs: string[];
  inputs: string[];
}

export class MidiPorts {
  private access: Promise<MIDIAccess | null> | null = null;
  private wanted: ReadonlyMap<string, string> = new Map();
  private readonly ends = new Map<string, () => void>();
  private closed = false;

  constructor(private readonly heard: (deviceId: string, text: string) => void) {}

  private open(): Promise<MIDIAccess | null> {
    this.access ??=
      'requestMIDIAccess' in navigator
        ? navigator.requestMIDIAccess().then(
            (access) => {
              access.addEventListener('statechange', () => this.attach(access));
              return access;
            },
            () => null,
          )
        : Promise.resolve(null);
    return this.access;
  }

  /** The devices that are to be heard: names of ports by the identity of the device. Without any, the browser is not asked. */
  async set(wanted: ReadonlyMap<string, string>): Promise<void> {
    this.wanted = wanted;
    if (wanted.size === 0 && !this.access) return;
    const access = await this.open();
    if (access && !this.closed) this.attach(access);
  }

  private attach(access: MIDIAccess): void {
    for (const end of this.ends.values()) end();
    this.ends.clear();
    for (const [deviceId, name] of this.wanted) {
      const input = [...access.inputs.values()].find((i) => i.name === name);
      if (!input) continue;
      // Beside whoever else listens to the port.
      const listen = ({ data }: MIDIMessageEvent) => {
        // Clocks and active sensing come all the time, and say nothing.
        if (data && (data[0] ?? 0) < 0xf8) this.heard(deviceId, midiWords(data));
      };
      input.addEventListener('midimessage', listen);
      this.ends.set(deviceId, () => input.removeEventListener('midimessage', listen));
    }
  }

  async names(): Promise<MidiPortNames> {
    const access = await this.open();
    const of = (ports: Iterable<MIDIPort> | undefined) => [...new Set([...(ports ?? [])].map((p) => p.name ?? ''))].filter(Boolean);
    return { outputs: of(access?.outputs.values()), inputs: of(access?.inputs.values()) };
  }

  /** Sends a message in words to the port of this name. Never rejects. */
  async send(name: string, words: string): Promise<SendResult> {
    const began = performance.now();
    const failed = (message: string): SendResult => ({ ok: false, millis: 0, tries: 1, answer: null, message });
    const access = await this.open();
    if (!access) return failed('The browser was not allowed to use MIDI: allow it at the address bar.');
    const output = [...access.outputs.values()].find((o) => o.name === name);
    if (!output) return failed(name === '' ? 'Choose its MIDI port first.' : `No MIDI port here is called ${name}.`);
    try {
      output.send(readMidi(words));
      return { ok: true, millis: Math.round(performance.now() - began), tries: 1, answer: null, message: '' };
    } catch (error) {
      return failed(causeOf(error));
    }
  }

  close(): void {
    this.closed = true;
    for (const end of this.ends.values()) end();
    this.ends.clear();
  }
}
