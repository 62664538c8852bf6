/** Cameras, capture cards and microphones, through getUserMedia; and screens, through getDisplayMedia. */
import { type CameraSettings, type ScreenSettings } from '#core/show/source';
import { type Driver, type EngineFormat, type SourceLink } from './driver';
import { pumpFrames } from './frame-pump';
import { deviceCause, findDevice } from './media-devices';

/** Tries again after so many milliseconds, and whenever the list of devices changes. */
const RETRY_MS = 2000;

/** The identity to ask for: as it is now, or as it was when it is not there; undefined leaves the choice to the browser. */
async function idOf(kind: MediaDeviceKind, deviceId: string, label: string): Promise<string | undefined> {
  if (deviceId === '' && label === '') return undefined;
  return (await findDevice(kind, deviceId, label))?.deviceId ?? deviceId;
}

async function openCamera(settings: CameraSettings): Promise<MediaStream> {
  const { width, height, frameRate } = settings;
  const video: MediaTrackConstraints = {};
  const device = await idOf('videoinput', settings.deviceId, settings.deviceLabel);
  if (device) video.deviceId = { exact: device };
  if (width) video.width = { ideal: width };
  if (height) video.height = { ideal: height };
  if (frameRate) video.frameRate = { ideal: frameRate };
  let audio: MediaTrackConstraints | false = false;
  if (settings.audioDeviceId !== null) {
    // A programme needs the microphone as it is: no call processing.
    audio = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
    const microphone = await idOf('audioinput', settings.audioDeviceId, settings.audioDeviceLabel);
    if (microphone) audio.deviceId = { exact: microphone };
  }
  return navigator.mediaDevices.getUserMedia({ video, audio });
}

const openScreen = (settings: ScreenSettings): Promise<MediaStream> =>
  navigator.mediaDevices.getDisplayMedia({ video: true, audio: settings.withSound });

interface Keeping {
  open: () => Promise<MediaStream>;
  link: SourceLink;
  format: EngineFormat;
  /** Opened again by itself when it was lost. */
  retries: boolean;
  /** It always sends pictures, or it is stuck: not so a screen on which nothing moves. */
  lively: boolean;
}

/** Keeps a stream open: says why it is not, and opens it again when it can. */
function keepOpen({ open, link, format, retries, lively }: Keeping): { stop: () => void; retry: () => void } {
  let stream: MediaStream | null = null;
  let stopped = false;
  let opening = false;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let endPump: () => void = () => undefined;
  const close = () => {
    endPump();
    // The pump stops the track of its pictures itself.
    stream?.getAudioTracks().forEach((track) => track.stop());
    stream = null;
  };
  const lose = (cause: string) => {
    close();
    if (stopped) return;
    link.health('lost', cause);
    clearTimeout(timer);
    if (retries) timer = setTimeout(() => void start(), RETRY_MS);
  };
  async function start(): Promise<void> {
    if (stopped || stream || opening) return;
    opening = true;
    try {
      const opened = await open();
      if (stopped) {
        opened.getTracks().forEach((track) => track.stop());
        return;
      }
      stream = opened;
      const [video] = opened.getVideoTracks();
      if (video)
        endPump = pumpFrames(video, link.framePort(), format.clock, () => lively && lose('it sends no pictures; it is opened again'));
      if (opened.getAudioTracks().length > 0) link.soundStream(opened);
      link.health('live');
      for (const track of opened.getTracks()) {
        track.addEventListener('ended', () => {
          if (stream === opened) lose(track === video ? 'unplugged, or its permission was withdrawn' : 'its microphone has stopped');
        });
      }
    } catch (error) {
      lose(deviceCause(error));
    } finally {
      opening = false;
    }
  }
  const changed = () => void start();
  if (retries) navigator.mediaDevices.addEventListener('devicechange', changed);
  return {
    retry: changed,
    stop: () => {
      stopped = true;
      clearTimeout(timer);
      navigator.mediaDevices.removeEventListener('devicechange', changed);
      close();
    },
  };
}

export const cameraDriver: Driver<'camera'> = (source, _air, link, format) => {
  link.health('waiting', 'opening the device');
  const kept = keepOpen({ open: () => openCamera(source.settings), link, format, retries: true, lively: true });
  kept.retry();
  return { stop: kept.stop };
};

export const screenDriver: Driver<'screen'> = (source, _air, link, format) => {
  link.health('lost', 'press Start on its tile: the browser asks which screen to show');
  const kept = keepOpen({ open: () => openScreen(source.settings), link, format, retries: false, lively: false });
  // Screens need a press by the person at the machine each time.
  return { press: kept.retry, stop: kept.stop };
};

/** Capture devices by kind, with labels once permission was given. */
export async function listDevices(): Promise<{ cameras: MediaDeviceInfo[]; microphones: MediaDeviceInfo[] }> {
  const devices = (await navigator.mediaDevices?.enumerateDevices()) ?? [];
  return {
    cameras: devices.filter((d) => d.kind === 'videoinput'),
    microphones: devices.filter((d) => d.kind === 'audioinput'),
  };
}
