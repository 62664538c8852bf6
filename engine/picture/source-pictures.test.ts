import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeFrame, fakeFrame, shown, useFakeFrames } from '#tests/support/fake-frames';
import { sampleDesk } from '#tests/support/sample-show';
import { SourcePictures } from './source-pictures';

beforeEach(() => {
  useFakeFrames();
});

afterEach(() => {
  vi.unstubAllGlobals();
});

const settle = () => new Promise((resolve) => setTimeout(resolve));

/** Pictures of the sample show at a show time that stands still until it is set, and what they report. */
function setup() {
  const made = { now: 0, reports: [] as string[] };
  const pictures = new SourcePictures(() => made.now, {
    seen: (id, width, height) => made.reports.push(`${id} seen ${width}×${height}`),
    ended: (id) => made.reports.push(`${id} ended`),
    silent: (id) => made.reports.push(`${id} silent`),
  });
  const { show } = sampleDesk();
  const shows = (id: string) => {
    const found = pictures.lookup(show, { kind: 'source', id }, { width: 64, height: 36 });
    return found ? shown(found.image as VideoFrame) : null;
  };
  /** Goes on by so many milliseconds, a frame of the programme every 40. */
  const pass = async (ms: number) => {
    for (const end = made.now + ms * 1000; made.now < end; ) {
      made.now += 40_000;
      pictures.advance(made.now);
    }
    await settle();
  };
  return { made, pictures, shows, pass };
}

/** A device's stream, fed by hand. */
function device() {
  let controller: ReadableStreamDefaultController<VideoFrame> | null = null;
  const stream = new ReadableStream<VideoFrame>({ start: (c) => void (controller = c) });
  return {
    stream,
    send: async (shows: string) => {
      controller?.enqueue(fakeFrame(shows));
      await settle();
    },
    stop: async () => {
      controller?.close();
      await settle();
    },
  };
}

describe('the stream of a device', () => {
  it('is stamped as its frames come, shown from then on, and seen once', async () => {
    const { made, pictures, shows, pass } = setup();
    const camera = device();
    pictures.connectStream('a', camera.stream);
    await camera.send('one');
    pictures.advance(made.now);
    expect(shows('a')).toBe('one');
    await pass(40);
    await camera.send('two');
    expect(shows('a')).toBe('one');
    pictures.advance(made.now);
    expect(shows('a')).toBe('two');
    expect(made.reports).toEqual(['a seen 64×36']);
    expect(FakeFrame.open).toBe(1);
    await camera.stop();
    expect(made.reports).toEqual(['a seen 64×36', 'a ended']);
  });

  it('is reported when nothing comes for two seconds, once, and again after it has sent', async () => {
    const { made, pictures, pass } = setup();
    const camera = device();
    pictures.connectStream('a', camera.stream);
    for (let i = 0; i < 4; i += 1) {
      await camera.send('one');
      await pass(1500);
    }
    expect(made.reports).toEqual(['a seen 64×36']);
    await pass(5000);
    expect(made.reports).toEqual(['a seen 64×36', 'a silent']);
    await camera.send('two');
    await pass(3000);
    expect(made.reports).toEqual(['a seen 64×36', 'a silent', 'a silent']);
    // One that has not sent anything at all is no better.
    const mute = device();
    pictures.connectStream('b', mute.stream);
    await pass(2500);
    expect(made.reports.at(-1)).toBe('b silent');
  });

  it('is not blamed for a pause of the mixer, nor when it is known to be lost, nor when it has ended', async () => {
    const { made, pictures, pass } = setup();
    const camera = device();
    pictures.connectStream('a', camera.stream);
    await camera.send('one');
    await pass(1000);
    made.now += 10e6;
    pictures.advance(made.now);
    expect(made.reports).toEqual(['a seen 64×36']);
    await pass(1500);
    await camera.send('two');
    pictures.setHealth('a', { state: 'lost', cause: 'unplugged' });
    await pass(3000);
    await camera.stop();
    await pass(3000);
    expect(made.reports).toEqual(['a seen 64×36', 'a ended']);
  });

  it('that is replaced is read on to its end, so that no frame on its way stays open', async () => {
    const { made, pictures, shows, pass } = setup();
    const [before, after] = [device(), device()];
    pictures.connectStream('a', before.stream);
    await before.send('old');
    await pass(40);
    pictures.connectStream('a', after.stream);
    await before.send('late');
    await before.send('later');
    await after.send('new');
    await pass(40);
    expect(shows('a')).toBe('new');
    await before.stop();
    expect(FakeFrame.open).toBe(1);
    pictures.remove('a');
    await after.send('last');
    await after.stop();
    expect(FakeFrame.open).toBe(0);
    expect(made.reports).toEqual(['a seen 64×36', 'a seen 64×36']);
  });
});

describe('copies of a source’s frames', () => {
  it('go to whoever records it, also after the source was connected anew, until it is enough', async () => {
    const { pictures } = setup();
    const taken: string[] = [];
    const port = { postMessage: ({ frame, stamp }: { frame: VideoFrame; stamp: number }) => { taken.push(`${shown(frame)} at ${stamp}`); frame.close(); }, close: () => taken.push('closed') };
    pictures.tap('a', port as unknown as MessagePort);
    const feed = { onmessage: null as null | ((event: { data: unknown }) => void), close: () => undefined };
    pictures.connectPort('a', feed as unknown as MessagePort);
    feed.onmessage?.({ data: { frame: fakeFrame('one'), stamp: 40 } });
    pictures.connectPort('a', feed as unknown as MessagePort);
    feed.onmessage?.({ data: { frame: fakeFrame('two'), stamp: 80 } });
    pictures.untap('a');
    feed.onmessage?.({ data: { frame: fakeFrame('three'), stamp: 120 } });
    expect(taken).toEqual(['one at 40', 'two at 80', 'closed']);
    pictures.remove('a');
    await settle();
    expect(FakeFrame.open).toBe(0);
  });
});
