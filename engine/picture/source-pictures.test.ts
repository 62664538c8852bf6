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

/** Pictures of the sample show, and what they report. */
function setup() {
  const seen: string[] = [];
  const pictures = new SourcePictures((id, width, height) => seen.push(`${id} ${width}×${height}`));
  const { show } = sampleDesk();
  const shows = (id: string) => {
    const found = pictures.lookup(show, { kind: 'source', id }, { width: 64, height: 36 });
    return found ? shown(found.image as VideoFrame) : null;
  };
  return { pictures, seen, shows };
}

/** A driver's end of a port, fed by hand; what is sent to a closed one stays open, as in browsers. */
function driver() {
  const port = {
    onmessage: null as null | ((event: { data: unknown }) => void),
    close: () => {
      port.onmessage = null;
    },
  };
  const send = (shows: string, stamp: number, flush?: true) => {
    const frame = fakeFrame(shows);
    port.onmessage?.({ data: { frame, stamp, ...(flush && { flush }) } });
  };
  return { port: port as unknown as MessagePort, send };
}

describe('the frames of a source', () => {
  it('are shown from their stamp on, and seen once', () => {
    const { pictures, seen, shows } = setup();
    const camera = driver();
    pictures.connectPort('a', camera.port);
    camera.send('one', 0);
    camera.send('two', 40);
    pictures.advance(39);
    expect(shows('a')).toBe('one');
    pictures.advance(40);
    expect(shows('a')).toBe('two');
    expect(seen).toEqual(['a 64×36']);
    expect(FakeFrame.open).toBe(1);
  });

  it('are taken back when their player was moved', () => {
    const { pictures, shows } = setup();
    const player = driver();
    pictures.connectPort('a', player.port);
    player.send('one', 0);
    player.send('two', 40);
    player.send('elsewhere', 40, true);
    pictures.advance(80);
    expect(shows('a')).toBe('elsewhere');
    expect(FakeFrame.open).toBe(1);
  });

  it('that come long after their source is gone do not stay open: a busy driver hears late that it was stopped', async () => {
    vi.useFakeTimers();
    const { pictures } = setup();
    const busy = driver();
    pictures.connectPort('a', busy.port);
    pictures.remove('a');
    await vi.advanceTimersByTimeAsync(60_000);
    busy.send('late', 40);
    expect(FakeFrame.open).toBe(0);
    vi.useRealTimers();
  });

  it('of a driver that was replaced, lost or taken away are shown no more, and none stays open', () => {
    const { pictures, seen, shows } = setup();
    const [before, after] = [driver(), driver()];
    pictures.connectPort('a', before.port);
    before.send('old', 0);
    pictures.advance(0);
    pictures.connectPort('a', after.port);
    before.send('late', 10);
    after.send('new', 20);
    pictures.advance(40);
    expect(shows('a')).toBe('new');
    pictures.setHealth('a', { state: 'lost', cause: 'unplugged' });
    expect(FakeFrame.open).toBe(0);
    after.send('again', 60);
    pictures.advance(60);
    expect(shows('a')).toBe('again');
    pictures.remove('a');
    after.send('last', 80);
    expect(FakeFrame.open).toBe(0);
    expect(seen).toEqual(['a 64×36', 'a 64×36']);
  });
});

describe('copies of a source’s frames', () => {
  it('go to whoever records it, also after the source was connected anew, until it is enough', () => {
    const { pictures } = setup();
    const taken: string[] = [];
    const recorder = {
      postMessage: ({ frame, stamp }: { frame: VideoFrame; stamp: number }) => {
        taken.push(`${shown(frame)} at ${stamp}`);
        frame.close();
      },
      close: () => taken.push('closed'),
    };
    pictures.copyTo('a', recorder as unknown as MessagePort);
    const [one, two] = [driver(), driver()];
    pictures.connectPort('a', one.port);
    one.send('one', 40);
    pictures.connectPort('a', two.port);
    two.send('two', 80);
    pictures.copyNoMore('a');
    two.send('three', 120);
    expect(taken).toEqual(['one at 40', 'two at 80', 'closed']);
    pictures.remove('a');
    expect(FakeFrame.open).toBe(0);
  });
});
