/** The viewer's page: plays the stream named in ?stream= (default: pier), or, by a link of the show, the programme with little delay. */
import Hls from 'hls.js';
import '../theme/theme.css';
import './watch.css';
import { followLowDelay } from './low-delay';

const stream = new URLSearchParams(location.search).get('stream') ?? 'pier';
const address = `/live/${encodeURIComponent(stream)}/index.m3u8`;
const video = document.querySelector<HTMLVideoElement>('#video');
const status = document.querySelector<HTMLElement>('#status');

/** Looks again so often, milliseconds. */
const LOOK_AGAIN = 2000;
/** Seconds without anything new after which a stream is not live: several of its segments. */
const STILL = 10;

const say = (text: string) => {
  if (status) status.textContent = text;
};

/** Seconds since the site was sent anything of the stream; null when there is none, or the site cannot be asked. */
async function idleSeconds(): Promise<number | null> {
  try {
    const answer = await fetch(`/live/${encodeURIComponent(stream)}/state`);
    const { idleSeconds: idle } = (await answer.json()) as { idleSeconds: number | null };
    return idle;
  } catch {
    return null;
  }
}

/** Plays from the live edge until the stream rests or fails; resolves then. */
function play(target: HTMLVideoElement): Promise<void> {
  return new Promise((ended) => {
    const hls = new Hls({ liveSyncDurationCount: 2, liveMaxLatencyDurationCount: 6, manifestLoadingMaxRetry: 0, enableWorker: true });
    const end = (text: string) => {
      say(text);
      clearInterval(watch);
      hls.destroy();
      ended();
    };
    let shown = false;
    const watch = setInterval(() => {
      void idleSeconds().then((idle) => {
        if (idle !== null && idle > STILL) end('The stream has ended. This page goes on when it comes again.');
        else if (shown && idle !== null) say('Live');
      });
    }, LOOK_AGAIN);
    hls.on(Hls.Events.ERROR, (_event, data) => {
      if (!data.fatal) return;
      if (data.type === Hls.ErrorTypes.MEDIA_ERROR) hls.recoverMediaError();
      else end('The stream is away. Trying again…');
    });
    hls.on(Hls.Events.FRAG_BUFFERED, () => {
      shown = true;
    });
    hls.loadSource(address);
    hls.attachMedia(target);
  });
}

/** Waits for the stream, plays it, and waits again. */
async function follow(target: HTMLVideoElement): Promise<void> {
  for (;;) {
    const idle = await idleSeconds();
    if (idle === null) say('Nothing is being streamed yet. This page waits for it.');
    else if (idle > STILL) say('The stream has ended. This page goes on when it comes again.');
    else await play(target);
    await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN));
  }
}

const show = new URLSearchParams(location.search).get('show');
const key = new URLSearchParams(location.hash.slice(1)).get('in');

if (!video) say('This page is damaged.');
else if (show !== null && key !== null) void followLowDelay(video, show, key, say);
else if (!Hls.isSupported()) say('This browser cannot play the stream: it has no Media Source Extensions.');
else void follow(video);
