/**
 * Takes a device's frames off its track and hands them to the mixer. The page does it: a stream that is transferred to a busy
 * worker gets stuck at its first frame in Chromium, again and again.
 */
import { ArrivalStamps } from '#core/time/arrival-stamps';
import { type FrameMessage } from '../picture/messages';
import { SharedClock } from '../time/shared-clock';

/** Frames that may wait while the page is busy: three times what the mixer waits for a picture. */
const FRAMES_WAITING = 5;
/** A track that is open and sends no picture for so long is stuck, milliseconds. */
const SILENT_MS = 2000;
const WATCH_MS = 250;
/**
 * A stopped device is let go with its next frame: stopped while one is asked for, a frame on its way would stay open. Without
 * one it is let go after this, milliseconds.
 */
const LAST_FRAME_MS = 500;
/** After a pause this long of the page itself nobody is to blame for what did not come in it, milliseconds; a hidden page looks once a second. */
const PAUSE_MS = 1500;

/**
 * Pumps until the track ends or the returned function is called, which stops the track too. `silent` is told once when
 * nothing has come for two seconds, and again after it has sent anew.
 */
export function pumpFrames(track: MediaStreamVideoTrack, port: MessagePort, clock: SharedArrayBuffer, silent: () => void): () => void {
  const show = new SharedClock(clock);
  const stamps = new ArrivalStamps();
  const reader = new MediaStreamTrackProcessor({ track, maxBufferSize: FRAMES_WAITING }).readable.getReader();
  let heardAt = performance.now();
  let lookedAt = heardAt;
  let stopped = false;
  const watch = setInterval(() => {
    const now = performance.now();
    if (now - lookedAt > PAUSE_MS) heardAt = Math.max(heardAt, now);
    lookedAt = now;
    if (now - heardAt < SILENT_MS) return;
    heardAt = Infinity;
    silent();
  }, WATCH_MS);
  const stop = () => {
    if (stopped) return;
    stopped = true;
    clearInterval(watch);
    port.close();
    setTimeout(() => track.stop(), LAST_FRAME_MS);
  };
  const pump = async () => {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) break;
      if (stopped) {
        value.close();
        track.stop();
        return;
      }
      heardAt = performance.now();
      const message: FrameMessage = { frame: value, stamp: stamps.stamp(value.timestamp, show.now()) };
      port.postMessage(message, [value]);
    }
    stop();
  };
  // A track that fails ends, and its owner hears of that from the track.
  pump().catch(stop);
  return stop;
}
