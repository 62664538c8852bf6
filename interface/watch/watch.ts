/** The viewer's page of the streaming site: plays the stream named in ?stream= (default: pier). */
import Hls from 'hls.js';
import '../theme/theme.css';
import './watch.css';

const stream = new URLSearchParams(location.search).get('stream') ?? 'pier';
const address = `/live/${encodeURIComponent(stream)}/index.m3u8`;
const video = document.querySelector<HTMLVideoElement>('#video');
const status = document.querySelector<HTMLElement>('#status');

/** Looks again so often while there is no stream, milliseconds. */
const LOOK_AGAIN = 2000;

const say = (text: string) => {
  if (status) status.textContent = text;
};

function play(target: HTMLVideoElement): void {
  const hls = new Hls({ liveSyncDurationCount: 2, liveMaxLatencyDurationCount: 6, manifestLoadingMaxRetry: 0, enableWorker: true });
  const again = (text: string) => {
    say(text);
    hls.destroy();
    setTimeout(() => play(target), LOOK_AGAIN);
  };
  hls.on(Hls.Events.ERROR, (_event, data) => {
    if (!data.fatal) return;
    if (data.type === Hls.ErrorTypes.MEDIA_ERROR) hls.recoverMediaError();
    else
      again(data.response?.code === 404 ? 'Nothing is being streamed yet. This page waits for it.' : 'The stream is away. Trying again…');
  });
  hls.on(Hls.Events.FRAG_BUFFERED, () => say('Live'));
  hls.loadSource(address);
  hls.attachMedia(target);
}

if (!video) say('This page is damaged.');
else if (!Hls.isSupported()) say('This browser cannot play the stream: it has no Media Source Extensions.');
else play(video);
