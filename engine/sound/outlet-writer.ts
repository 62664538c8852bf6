/** Hands sound on in chunks of 40 ms, with the show sample of each. */
import { BLOCK, type Stereo } from '#core/sound/dsp/stereo';
import { type SoundChunk } from './chunk';

const LENGTH = 15 * BLOCK;

export class OutletWriter {
  private left = new Float32Array(LENGTH);
  private right = new Float32Array(LENGTH);
  private filled = 0;

  constructor(private readonly port: MessagePort) {}

  /** Adds a block whose first sample is show sample `sample`; null for silence. */
  write(block: Stereo | null, sample: number): void {
    if (block) {
      this.left.set(block.left, this.filled);
      this.right.set(block.right, this.filled);
    } else {
      this.left.fill(0, this.filled, this.filled + BLOCK);
      this.right.fill(0, this.filled, this.filled + BLOCK);
    }
    this.filled += BLOCK;
    if (this.filled < LENGTH) return;
    const chunk: SoundChunk = { sample: sample + BLOCK - LENGTH, channels: [this.left, this.right] };
    this.port.postMessage(chunk, [this.left.buffer, this.right.buffer]);
    this.left = new Float32Array(LENGTH);
    this.right = new Float32Array(LENGTH);
    this.filled = 0;
  }

  /** Time has jumped: what was gathered belongs to the time before. */
  restart(): void {
    this.filled = 0;
  }
}
