/**
 * Segments on their way to a destination: in order, one at a time, tried again with growing pauses while it is away.
 * The queue is bounded; when it is full the oldest media segments are given up and counted.
 */
import { backoffMillis } from '#core/output/backoff';
import { causeOf } from '#core/schema/cause';
import { type StreamState } from './messages';

export interface Segment {
  /** Below the stream's address, as `video/000012.m4s`. */
  path: string;
  data: Uint8Array;
  /** 0 for an init segment, which is never given up. */
  seconds: number;
}

export interface SegmentQueueOptions {
  /** Sends one segment; rejects with a plain message when the destination did not take it. */
  send: (segment: Segment) => Promise<void>;
  /** Waits so many milliseconds. */
  pause: (ms: number) => Promise<void>;
  /** Seconds of media that may wait, of all tracks together. */
  capacitySeconds: number;
}

/** Refused for good: trying again cannot help. */
export class RefusedError extends Error {}

export class SegmentQueue {
  state: StreamState = 'connecting';
  trouble = '';
  dropped = 0;
  lostSeconds = 0;
  reconnects = 0;
  sentBytes = 0;
  private waiting: Segment[] = [];
  private sending = false;
  private ended = false;
  private idle: (() => void)[] = [];

  constructor(private readonly options: SegmentQueueOptions) {}

  get queued(): number {
    return this.waiting.length;
  }

  get queuedSeconds(): number {
    return this.waiting.reduce((sum, s) => sum + s.seconds, 0);
  }

  push(segment: Segment): void {
    if (this.ended) return;
    this.waiting.push(segment);
    this.bound();
    if (!this.sending) void this.run();
  }

  private bound(): void {
    // The first in line may be on its way at this moment; it is left alone.
    while (this.queuedSeconds > this.options.capacitySeconds) {
      const oldest = this.waiting.findIndex((s, i) => s.seconds > 0 && (i > 0 || !this.sending));
      if (oldest < 0) return;
      const [gone] = this.waiting.splice(oldest, 1);
      this.dropped += 1;
      this.lostSeconds += gone?.seconds ?? 0;
    }
  }

  private async run(): Promise<void> {
    this.sending = true;
    let attempt = 0;
    while (this.waiting[0] && !this.ended) {
      const segment = this.waiting[0];
      try {
        await this.options.send(segment);
        if (this.waiting[0] === segment) this.waiting.shift();
        this.sentBytes += segment.data.byteLength;
        if (attempt > 0) this.reconnects += 1;
        attempt = 0;
        this.trouble = '';
        if (this.state !== 'ending') this.state = 'live';
      } catch (error) {
        attempt += 1;
        this.trouble = causeOf(error);
        if (this.state !== 'ending') this.state = 'retrying';
        if (error instanceof RefusedError) this.trouble += ' Check address and key; trying again all the same.';
        await this.options.pause(backoffMillis(attempt));
      }
    }
    this.sending = false;
    for (const done of this.idle.splice(0)) done();
  }

  /** Sends what waits, for at most `limitMs`, then ends. Returns the seconds that could not be sent. */
  async finish(limitMs: number): Promise<number> {
    this.state = 'ending';
    if (this.sending) await Promise.race([new Promise<void>((resolve) => this.idle.push(resolve)), this.options.pause(limitMs)]);
    this.ended = true;
    return this.queuedSeconds;
  }
}
