/** What this person hears at a panel: their own ears, whatever others listen to. */
import { createStore } from 'zustand/vanilla';
import { execute } from '#core/desk/execute';
import { findCommand } from '#core/desk/registry';
import { type Desk } from '#core/desk/air';
import { type Command } from '#core/commands/command';
import { type Ears, unpackSound } from '#core/panels/sound-line';
import { PROGRAMME_BUS } from '#core/sound/document';
import { type ListeningState } from '../client/show-client';
import { OpusPlayer } from './opus-player';

const FIRST: Ears = { busId: PROGRAMME_BUS, solos: [] };
/** What is listened to is turned down so far while somebody of the crew speaks. */
const UNDER_TALK = 0.3;

/** True for a command about the ears of whoever sends it. */
export const isPersonal = ({ type }: Command): boolean => findCommand(type)?.personal === true;

export class PanelListening {
  readonly store = createStore<ListeningState>(() => ({ on: false, message: '' }));
  ears: Ears = FIRST;
  private seen: { desk: Desk; ears: Ears; own: Desk } | null = null;
  private context: AudioContext | null = null;
  private gain: GainNode | null = null;
  private player: OpusPlayer | null = null;
  private number: number | null = null;
  private level = 0.8;
  private under = 1;

  constructor(private readonly ask: (ears: Ears | null) => void) {}

  /** The desk as this person sees it: with their own ears. The same for the same. */
  own({ show, air }: Desk): Desk {
    const { ears, seen } = this;
    if (seen?.desk.show === show && seen.desk.air === air && seen.ears === ears) return seen.own;
    const sound = { ...air.sound, earsId: ears.busId, solos: [...ears.solos] };
    const own = { show, air: { ...air, sound } };
    this.seen = { desk: { show, air }, ears, own };
    return own;
  }

  /** Does a command about one's own ears. What it refuses is returned. */
  do(desk: Desk, command: Command) {
    const done = execute(this.own(desk), command, { frame: 0, newId: () => '' });
    if (!done.ok) return done;
    const { earsId, solos } = done.desk.air.sound;
    this.ears = { busId: earsId, solos };
    if (this.store.getState().on) this.ask(this.ears);
    return done;
  }

  /** Begins to listen, within a press: browsers want one. */
  on(): void {
    this.context ??= new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' });
    this.gain ??= new GainNode(this.context, { gain: this.level });
    this.gain.connect(this.context.destination);
    this.player ??= new OpusPlayer(this.context, this.gain, 2);
    void this.context.resume();
    this.store.setState({ on: true, message: '' });
    this.ask(this.ears);
  }

  off(): void {
    this.store.setState({ on: false, message: '' });
    this.number = null;
    this.ask(null);
    void this.context?.suspend();
  }

  /** The line is new, or the host is: what is heard is asked for again. */
  again(): void {
    if (this.store.getState().on) this.ask(this.ears);
  }

  told(number: number | null, why = ''): void {
    this.number = number;
    this.store.setState({ message: why });
  }

  packet(bytes: Uint8Array): void {
    const packet = unpackSound('sound', bytes);
    if (packet && packet.number === this.number) this.player?.packet(packet.data);
  }

  /** Peak of what is heard now, 0 to 1. */
  get peak(): number {
    return this.player && performance.now() - this.player.heardAt < 500 ? this.player.peak : 0;
  }

  /** What is heard, for those who measure. */
  get output(): AudioNode | null {
    return this.gain;
  }

  setLevel(level: number): void {
    this.level = level;
    this.apply();
  }

  /** Somebody of the crew speaks, or nobody does. */
  setUnder(talk: boolean): void {
    this.under = talk ? UNDER_TALK : 1;
    this.apply();
  }

  private apply(): void {
    this.gain?.gain.setTargetAtTime(this.level * this.under, 0, 0.05);
  }

  close(): void {
    this.player?.close();
    void this.context?.close();
  }
}
