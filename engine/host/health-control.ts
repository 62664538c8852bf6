/** Once a second: how the engine fares, for charts, remote, pace and the list of shows. */
import { type Desk } from '#core/desk/air';
import { type HealthSample, type LiveState } from '../client/state';
import { db } from '../storage/db';
import { type Follower, type HostAccess } from './follower';
import { type PaceControl } from './pace-control';

/** Seconds of health kept for the charts. */
const SAMPLE_LIMIT = 300;

/** The seconds so far, and this one. */
export function withSample(
  samples: readonly HealthSample[],
  { drawMs, dropped, late }: LiveState['mixer'],
  { recording, stream }: LiveState['encoder'],
): HealthSample[] {
  const rates = { recordingBitrate: recording?.bitrate ?? 0, streamBitrate: stream?.bitrate ?? 0 };
  return [...samples.slice(-SAMPLE_LIMIT + 1), { at: Date.now(), drawMs, dropped, late, ...rates }];
}

interface Told {
  /** The engine works in another format from now on. */
  stepped(): void;
  /** A second has passed. */
  told(): void;
  pace: PaceControl;
}

export class HealthControl implements Follower {
  private last = 0;

  constructor(
    private readonly showId: string,
    private readonly host: HostAccess,
    private readonly to: Told,
  ) {}

  tick(_desk: Desk, frame: number): void {
    const now = performance.now();
    if (now - this.last < 1000) return;
    this.last = now;
    this.sample(frame);
  }

  private sample(frame: number): void {
    const { mixer, encoder, samples, desk, working } = this.host.state();
    this.host.set({ samples: withSample(samples, mixer, encoder) });
    if (this.to.pace.second(mixer, desk, working.frameStep)) this.to.stepped();
    this.to.told();
    if (samples.length % 10 === 5) this.host.mixer.send({ type: 'thumbnail' });
    // The clock's mark moves on although nothing changed, so that time never goes back after a crash.
    if (samples.length % 5 === 0) void db.airs.update(this.showId, { savedFrame: frame });
  }
}
