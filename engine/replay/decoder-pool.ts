/** Video decoders that are used again: making one for every group of pictures would cost more than the decoding. */

export interface PooledDecoder {
  readonly decoder: VideoDecoder;
  readonly key: string;
  /** Takes what comes out; whoever borrows sets it. */
  output: (frame: VideoFrame) => void;
  failed: (error: DOMException) => void;
}

export class DecoderPool {
  private idle: PooledDecoder[] = [];
  /** Decoders lent out. */
  lent = 0;

  take(config: VideoDecoderConfig, key: string): PooledDecoder {
    this.lent += 1;
    const at = this.idle.findIndex((d) => d.key === key && d.decoder.state === 'configured');
    const [found] = at >= 0 ? this.idle.splice(at, 1) : [];
    if (found) return found;
    const made: PooledDecoder = {
      key,
      output: (frame) => frame.close(),
      failed: () => undefined,
      decoder: new VideoDecoder({ output: (frame) => made.output(frame), error: (error) => made.failed(error) }),
    };
    made.decoder.configure(config);
    return made;
  }

  /** Gives a decoder back; it must have been flushed, so that it can begin with the next key frame. */
  give(decoder: PooledDecoder): void {
    this.lent -= 1;
    decoder.output = (frame) => frame.close();
    decoder.failed = () => undefined;
    if (decoder.decoder.state !== 'configured') return;
    this.idle.push(decoder);
    if (this.idle.length > 4) this.idle.shift()?.decoder.close();
  }

  /** Ends a decoder in the middle of its work. */
  discard(decoder: PooledDecoder): void {
    this.lent -= 1;
    decoder.output = (frame) => frame.close();
    if (decoder.decoder.state !== 'closed') decoder.decoder.close();
  }
}
