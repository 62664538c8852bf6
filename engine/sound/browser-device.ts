/** Sound devices of the browser: inputs by getUserMedia, outputs by an audio context that plays on the device (setSinkId). */
import { deviceCause, findDevice } from '../capture/media-devices';
import { SAMPLE_RATE } from './chunk';
import { MOST_PAIRS } from '#core/sound/document';
import { type OpenDevice, type SoundDeviceDriver, type SoundDeviceInfo } from './device-driver';

declare global {
  // Newer than TypeScript's library: Audio Output Devices API.
  interface AudioContextOptions {
    sinkId?: string;
  }
  interface AudioContext {
    setSinkId(sinkId: string): Promise<void>;
  }
}

/** The device; null for the default one where the browser does not name it. @throws Error when it is not there. */
async function requireDevice(kind: MediaDeviceKind, deviceId: string, label: string): Promise<MediaDeviceInfo | null> {
  if (deviceId === '' || deviceId === 'default')
    return (await navigator.mediaDevices.enumerateDevices()).find((d) => d.kind === kind) ?? null;
  const found = await findDevice(kind, deviceId, label);
  if (!found) throw new Error('it is not plugged in');
  return found;
}

/** What to say of a device that runs at another rate. */
const rateNote = (rate: number | undefined) =>
  rate !== undefined && rate !== SAMPLE_RATE ? `runs at ${rate / 1000} kHz: converted to ${SAMPLE_RATE / 1000}` : '';

const missing = (what: string, pair: number, channels: number) =>
  `it has ${channels} ${what}: ${what} ${pair * 2 - 1}–${pair * 2} do not exist there`;

/** Pairs that so many channels make; a single one counts as a pair. */
const pairsIn = (channels: number) => Math.max(1, Math.min(MOST_PAIRS, Math.floor(channels / 2)));

/** Calls `onLost` when a device of this kind and identity is no longer listed. */
function watch(kind: MediaDeviceKind, deviceId: string, onLost: (cause: string) => void): () => void {
  const check = () =>
    void navigator.mediaDevices.enumerateDevices().then((list) => {
      if (!list.some((d) => d.kind === kind && d.deviceId === deviceId)) onLost('it was unplugged');
    });
  navigator.mediaDevices.addEventListener('devicechange', check);
  return () => navigator.mediaDevices.removeEventListener('devicechange', check);
}

async function openInput(
  context: AudioContext,
  deviceId: string,
  label: string,
  pairs: number,
  onLost: (cause: string) => void,
): Promise<OpenDevice> {
  try {
    const device = await requireDevice('audioinput', deviceId, label);
    const audio: MediaTrackConstraints = {
      echoCancellation: false,
      noiseSuppression: false,
      autoGainControl: false,
      channelCount: { ideal: pairs * 2 },
    };
    if (device && device.deviceId !== '') audio.deviceId = { exact: device.deviceId };
    const stream = await navigator.mediaDevices.getUserMedia({ audio });
    const [track] = stream.getAudioTracks();
    const source = context.createMediaStreamSource(stream);
    const channels = track?.getSettings().channelCount ?? 2;
    const most = track?.getCapabilities().channelCount?.max ?? channels;
    const splitter = new ChannelSplitterNode(context, { numberOfOutputs: Math.max(2, channels) });
    source.connect(splitter);
    track?.addEventListener('ended', () => onLost('it was unplugged, or its permission was withdrawn'));
    const mergers = new Map<number, ChannelMergerNode>();
    const unwatch = watch('audioinput', device?.deviceId ?? '', onLost);
    return {
      note: rateNote(track?.getSettings().sampleRate),
      pairs: pairsIn(most),
      pair: (pair) => {
        // A device of one channel gives it to both sides.
        if ((pair - 1) * 2 >= Math.max(1, channels)) throw new Error(missing('inputs', pair, channels));
        const known = mergers.get(pair);
        if (known) return known;
        const merger = new ChannelMergerNode(context, { numberOfInputs: 2 });
        splitter.connect(merger, (pair - 1) * 2, 0);
        splitter.connect(merger, pair * 2 - 1 < channels ? pair * 2 - 1 : (pair - 1) * 2, 1);
        mergers.set(pair, merger);
        return merger;
      },
      index: () => 0,
      close: () => {
        unwatch();
        source.disconnect();
        splitter.disconnect();
        for (const merger of mergers.values()) merger.disconnect();
        stream.getTracks().forEach((t) => t.stop());
      },
    };
  } catch (error) {
    throw new Error(deviceCause(error), { cause: error });
  }
}

async function openOutput(
  context: AudioContext,
  deviceId: string,
  label: string,
  pairs: number,
  onLost: (cause: string) => void,
): Promise<OpenDevice> {
  try {
    const device = await requireDevice('audiooutput', deviceId, label);
    const sinkId = device?.deviceId ?? '';
    // Each device runs on its own clock: the browser bridges the difference between the contexts.
    const out = new AudioContext({ sinkId: sinkId === 'default' ? '' : sinkId, latencyHint: 'interactive' });
    await out.resume();
    const channels = out.destination.maxChannelCount;
    out.destination.channelCount = Math.min(channels, Math.max(2, pairs * 2));
    out.destination.channelInterpretation = 'discrete';
    const merger = new ChannelMergerNode(out, { numberOfInputs: out.destination.channelCount });
    merger.connect(out.destination);
    const unwatch = watch('audiooutput', sinkId, onLost);
    const bridges = new Map<number, MediaStreamAudioDestinationNode>();
    return {
      note: rateNote(out.sampleRate),
      pairs: pairsIn(channels),
      pair: (pair) => {
        if (pair * 2 > channels) throw new Error(missing('outputs', pair, channels));
        const known = bridges.get(pair);
        if (known) return known;
        const bridge = new MediaStreamAudioDestinationNode(context, { channelCount: 2 });
        const splitter = new ChannelSplitterNode(out, { numberOfOutputs: 2 });
        out.createMediaStreamSource(bridge.stream).connect(splitter);
        splitter.connect(merger, 0, pair * 2 - 2);
        splitter.connect(merger, 1, pair * 2 - 1);
        bridges.set(pair, bridge);
        return bridge;
      },
      index: () => 0,
      close: () => {
        unwatch();
        void out.close();
      },
    };
  } catch (error) {
    throw new Error(deviceCause(error), { cause: error });
  }
}

async function list(): Promise<SoundDeviceInfo[]> {
  const all = (await navigator.mediaDevices?.enumerateDevices()) ?? [];
  const known = new Map<string, SoundDeviceInfo>();
  for (const device of all) {
    const { kind, deviceId, label } = device;
    if (kind === 'videoinput' || deviceId === '') continue;
    const info = known.get(`${kind} ${deviceId}`) ?? { deviceId, label: label || 'Sound device', inputPairs: 0, outputPairs: 0 };
    // How many outputs it really has is seen when it is opened; inputs tell where the browser may ask them.
    if (kind === 'audioinput')
      info.inputPairs = pairsIn(
        ('getCapabilities' in device ? (device as InputDeviceInfo).getCapabilities().channelCount?.max : undefined) ?? 2,
      );
    else info.outputPairs = 1;
    known.set(`${kind} ${deviceId}`, info);
  }
  return [...known.values()];
}

export const browserSound: SoundDeviceDriver = { list, owns: () => true, openInput, openOutput };
