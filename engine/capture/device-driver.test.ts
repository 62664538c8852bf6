import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createSource } from '#core/desk/create';
import { type CameraSettings } from '#core/show/source';
import { sampleDesk } from '#tests/support/sample-show';
import { type EngineFormat, type SourceLink, type Driver, type AnyDriver } from './driver';
import { SharedClock } from '../time/shared-clock';
import { cameraDriver, screenDriver } from './device-driver';

/** A track of a fake device. */
class FakeTrack extends EventTarget {
  readyState: 'live' | 'ended' = 'live';

  constructor(readonly kind: 'video' | 'audio') {
    super();
  }

  stop(): void {
    this.readyState = 'ended';
  }

  /** What a pulled cable does. */
  pull(): void {
    this.readyState = 'ended';
    this.dispatchEvent(new Event('ended'));
  }
}

/** Devices of this machine as the browser would tell them; `refusal` is thrown instead of a stream. */
class FakeDevices extends EventTarget {
  list: Partial<MediaDeviceInfo>[] = [{ kind: 'videoinput', deviceId: 'now', label: 'Pier camera' }];
  refusal: Error | null = null;
  asked: MediaStreamConstraints[] = [];
  streams: FakeTrack[][] = [];

  enumerateDevices() {
    return Promise.resolve(this.list);
  }

  private open(constraints: MediaStreamConstraints) {
    this.asked.push(constraints);
    if (this.refusal) return Promise.reject(this.refusal);
    const tracks = [new FakeTrack('video'), ...(constraints.audio ? [new FakeTrack('audio')] : [])];
    this.streams.push(tracks);
    return Promise.resolve({
      getTracks: () => tracks,
      getVideoTracks: () => tracks.filter((t) => t.kind === 'video'),
      getAudioTracks: () => tracks.filter((t) => t.kind === 'audio'),
    });
  }

  getUserMedia = (constraints: MediaStreamConstraints) => this.open(constraints);
  getDisplayMedia = (constraints: MediaStreamConstraints) => this.open(constraints);
}

let devices: FakeDevices;

beforeEach(() => {
  devices = new FakeDevices();
  vi.stubGlobal('navigator', { mediaDevices: devices });
  vi.stubGlobal(
    'MediaStreamTrackProcessor',
    class {
      readable = new ReadableStream();
    },
  );
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'performance'] });
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const CAMERA: CameraSettings = {
  kind: 'camera',
  deviceId: 'then',
  deviceLabel: 'Pier camera',
  audioDeviceId: null,
  audioDeviceLabel: '',
  width: null,
  height: null,
  frameRate: null,
} as unknown as CameraSettings;

const settle = async () => {
  for (let i = 0; i < 5; i += 1) await new Promise((resolve) => setImmediate(resolve));
};

function run(
  driver: Driver<'camera'> | Driver<'screen'>,
  settings: Record<string, unknown> = CAMERA as unknown as Record<string, unknown>,
) {
  const log: string[] = [];
  const link = {
    framePort: () => {
      log.push('pictures');
      return { close: () => undefined } as MessagePort;
    },
    soundStream: () => log.push('sound'),
    health: (state: string, cause = '') => log.push(`${state} ${cause}`.trim()),
  } as unknown as SourceLink;
  const { show, air } = sampleDesk();
  const source = createSource(show, 'camera', 'Camera', settings as never);
  return { log, handle: (driver as AnyDriver)(source, air, link, { clock: new SharedClock().memory } as EngineFormat) };
}

const openTracks = () => devices.streams.flat().filter((t) => t.readyState === 'live').length;

describe('a camera', () => {
  it('is found by its label when its identity has changed, and delivers pictures, and sound where it was asked for', async () => {
    const plain = run(cameraDriver);
    await settle();
    expect(plain.log).toEqual(['waiting opening the device', 'pictures', 'live']);
    expect(devices.asked[0]).toMatchObject({ video: { deviceId: { exact: 'now' } }, audio: false });
    const talking = run(cameraDriver, { ...CAMERA, audioDeviceId: '', audioDeviceLabel: '', width: 1280, frameRate: 50 });
    await settle();
    expect(talking.log).toEqual(['waiting opening the device', 'pictures', 'sound', 'live']);
    expect(devices.asked[1]).toMatchObject({
      video: { width: { ideal: 1280 }, frameRate: { ideal: 50 } },
      audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    });
  });

  it('that is pulled says so, is tried again every two seconds and when devices change, and comes back', async () => {
    const { log, handle } = run(cameraDriver);
    await settle();
    devices.refusal = new DOMException('gone', 'NotFoundError');
    devices.streams[0]?.[0]?.pull();
    expect(log.at(-1)).toBe('lost unplugged, or its permission was withdrawn');
    await vi.advanceTimersByTimeAsync(2000);
    await settle();
    expect(log.at(-1)).toBe('lost it is not plugged in');
    const before = devices.asked.length;
    devices.refusal = null;
    devices.dispatchEvent(new Event('devicechange'));
    await settle();
    expect(devices.asked.length).toBe(before + 1);
    expect(log.slice(-2)).toEqual(['pictures', 'live']);
    handle.stop();
    await vi.advanceTimersByTimeAsync(500);
    expect(openTracks()).toBe(0);
  });

  it('that sends no pictures though it is open says so, is closed, and opened anew', async () => {
    const { log, handle } = run(cameraDriver);
    await settle();
    await vi.advanceTimersByTimeAsync(2100);
    expect(log.at(-1)).toBe('lost it sends no pictures; it is opened again');
    await vi.advanceTimersByTimeAsync(500);
    expect([openTracks(), devices.asked.length]).toEqual([0, 1]);
    await vi.advanceTimersByTimeAsync(1500);
    await settle();
    expect(log.slice(-2)).toEqual(['pictures', 'live']);
    expect([openTracks(), devices.asked.length]).toEqual([1, 2]);
    handle.stop();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(log.at(-1)).toBe('live');
  });

  it('that is stopped while it is being opened is closed again, and tried no more', async () => {
    const { log, handle } = run(cameraDriver);
    handle.stop();
    await settle();
    expect(openTracks()).toBe(0);
    devices.dispatchEvent(new Event('devicechange'));
    await vi.advanceTimersByTimeAsync(10_000);
    await settle();
    expect(devices.streams).toHaveLength(1);
    expect(log).toEqual(['waiting opening the device']);
  });
});

describe('a screen', () => {
  it('waits for a press each time, is not tried again by itself, and may stand still for as long as it likes', async () => {
    const { log, handle } = run(screenDriver, { kind: 'screen', withSound: true });
    await vi.advanceTimersByTimeAsync(10_000);
    expect(devices.asked).toEqual([]);
    handle.press?.();
    await settle();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(log).toEqual(['lost press Start on its tile: the browser asks which screen to show', 'pictures', 'sound', 'live']);
    devices.streams[0]?.[0]?.pull();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(devices.asked).toHaveLength(1);
    handle.stop();
    handle.press?.();
    await settle();
    expect(devices.asked).toHaveLength(1);
  });
});
