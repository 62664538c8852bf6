/** What panels listen to: each different choice is worked out on the audio thread and encoded once, while somebody hears it and not otherwise. */
import { type Ears, earsFrom, MOST_EARS, packSound } from '#core/panels/sound-line';
import { isRecord } from '#core/schema/record';
import { type FromEars, type ToEars } from '../sound/ears-messages';
import { type SoundDesk } from '../sound/sound-desk';
import { type Follower } from './follower';

export class EarsControl implements Follower {
  private worker: Worker | null = null;
  /** How to end each, by its number. */
  private readonly heard = new Map<number, () => void>();

  constructor(
    private readonly sound: Pick<SoundDesk, 'sendTo'>,
    private readonly packet: (bytes: Uint8Array) => void,
  ) {}

  /** What is listened to from now on, as the server has put it together; what is none is left out. */
  want(raw: unknown): void {
    const wanted = new Map<number, Ears>();
    for (const item of Array.isArray(raw) ? raw.slice(0, MOST_EARS) : []) {
      const ears = isRecord(item) ? earsFrom(item.ears) : null;
      if (ears && isRecord(item) && Number.isInteger(item.number)) wanted.set(item.number as number, ears);
    }
    for (const [number, end] of [...this.heard]) {
      if (wanted.has(number)) continue;
      end();
      this.heard.delete(number);
    }
    for (const [number, ears] of wanted) if (!this.heard.has(number)) this.heard.set(number, this.begin(number, ears));
    if (wanted.size > 0) return;
    this.worker?.terminate();
    this.worker = null;
  }

  private begin(number: number, ears: Ears): () => void {
    this.worker ??= this.start();
    const { port1, port2 } = new MessageChannel();
    const send = (message: ToEars, transfer: Transferable[] = []) => this.worker?.postMessage(message, transfer);
    send({ type: 'add', number, port: port2 }, [port2]);
    const end = this.sound.sendTo(`ears ${number}`, { kind: 'ears', ears }, port1);
    return () => {
      end();
      send({ type: 'gone', number });
    };
  }

  private start(): Worker {
    const worker = new Worker(new URL('../sound/ears.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data: { number, data } }: MessageEvent<FromEars>) => this.packet(packSound('sound', number, data));
    return worker;
  }

  close(): void {
    this.want([]);
  }
}
