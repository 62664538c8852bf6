import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type FromHost, HOST_PROTOCOL } from '#core/panels/messages';
import { PartReader } from '#core/panels/parts';
import { attempt, sampleDesk } from '#tests/support/sample-show';
import { HostRemote } from './host-remote';

/** The server's end of a line. */
class FakeSocket {
  static made: FakeSocket[] = [];
  static readonly OPEN = 1;
  readyState = 1;
  readonly sent: FromHost[] = [];
  onopen: (() => void) | null = null;
  onclose: ((e: { code: number }) => void) | null = null;
  onmessage: ((e: { data: string }) => void) | null = null;
  private readonly reader = new PartReader(1e9);
  constructor(
    readonly url: URL,
    readonly protocols: string[],
  ) {
    FakeSocket.made.push(this);
  }
  send(text: string): void {
    const message = this.reader.read(text);
    if (message !== undefined) this.sent.push(message as FromHost);
  }
  close(): void {
    this.readyState = 3;
  }
}

beforeEach(() => {
  FakeSocket.made = [];
  vi.useFakeTimers();
  vi.stubGlobal('WebSocket', FakeSocket);
  vi.stubGlobal('location', { href: 'http://127.0.0.1:4300/show/x/desk' });
  let keys = 0;
  vi.stubGlobal('fetch', () => Promise.resolve({ ok: true, json: () => Promise.resolve({ key: `key-${(keys += 1)}` }) }));
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const settle = () => vi.advanceTimersByTimeAsync(1);

async function open() {
  const made = { desk: sampleDesk(), saved: () => Promise.resolve(), connected: [] as boolean[] };
  const remote: HostRemote = new HostRemote('show', {
    desk: () => made.desk,
    frame: () => 7,
    status: () => ({ fine: true }),
    passes: () => [],
    people: () => undefined,
    pictures: () => undefined,
    listen: () => undefined,
    crew: () => undefined,
    said: () => undefined,
    ways: () => null,
    audience: { batch: () => undefined, picture: () => undefined },
    guests: { come: () => undefined, gone: () => undefined, says: () => undefined },
    ask: () => Promise.resolve({ ok: true, value: null }),
    command: (command) => {
      const { type, args } = command as { type: string; args: Record<string, unknown> };
      const outcome = attempt(made.desk, type, args);
      if (!outcome.ok) return { ok: false, error: outcome.error };
      made.desk = outcome.desk;
      remote.changed(outcome.patches);
      return { ok: true, result: outcome.result };
    },
    saved: () => made.saved(),
    connected: (on) => made.connected.push(on),
  });
  await settle();
  const socket = FakeSocket.made[0] as FakeSocket;
  socket.onopen?.();
  return { made, remote, socket };
}

const say = (socket: FakeSocket, message: unknown) => socket.onmessage?.({ data: JSON.stringify(message) });

describe('the line of a host window', () => {
  it('proves whose page it is, says which show it runs, and tells nothing while nobody listens', async () => {
    const { remote, socket } = await open();
    expect(socket.protocols).toEqual([HOST_PROTOCOL, 'key-1']);
    say(socket, { kind: 'command', id: 4, command: { type: 'picture.cut', args: { picture: 'b' } } });
    await settle();
    remote.tellStatus();
    expect(socket.sent.map((m) => m.kind)).toEqual(['hello', 'passes', 'answer']);
    expect(socket.sent[0]).toEqual({ kind: 'hello', show: { id: 'show', name: 'Sample' } });
    // Whoever comes now gets the state as it is now; whoever asks for figures gets them alone.
    say(socket, { kind: 'follow', on: true });
    expect(socket.sent.at(-1)).toMatchObject({ kind: 'state', revision: 1, air: { onAirId: 'b' } });
    say(socket, { kind: 'status' });
    expect(socket.sent.at(-1)).toEqual({ kind: 'status', frame: 7, status: { fine: true } });
    say(socket, { kind: 'follow', on: false });
    say(socket, { kind: 'command', id: 5, command: { type: 'picture.cut', args: { picture: 'a' } } });
    await settle();
    expect(socket.sent.at(-1)?.kind).toBe('answer');
  });

  it('gives the state to those who listen, and then each change in order', async () => {
    const { remote, socket } = await open();
    say(socket, { kind: 'follow', on: true });
    say(socket, { kind: 'command', id: 4, command: { type: 'picture.cut', args: { picture: 'b' } } });
    say(socket, { kind: 'command', id: 5, command: { type: 'picture.cut', args: { picture: 'none' } } });
    await settle();
    remote.tellStatus();
    expect(socket.sent.map((m) => m.kind)).toEqual(['hello', 'passes', 'state', 'patches', 'answer', 'answer', 'status']);
    expect(socket.sent.flatMap((m) => ('revision' in m ? [m.revision] : []))).toEqual([0, 1]);
    expect(socket.sent.flatMap((m) => (m.kind === 'answer' ? [[m.id, m.outcome.ok]] : []))).toEqual(
      expect.arrayContaining([
        [4, true],
        [5, false],
      ]),
    );
    say(socket, { kind: 'snapshot' });
    expect(socket.sent.at(-1)).toMatchObject({ kind: 'state', revision: 1, air: { onAirId: 'b' } });
  });

  it('acknowledges an act when it is on disk, and not before', async () => {
    const { made, socket } = await open();
    let written = (): void => undefined;
    made.saved = () => new Promise((resolve) => (written = resolve));
    say(socket, { kind: 'command', id: 1, command: { type: 'picture.cut', args: { picture: 'b' } } });
    await settle();
    expect(socket.sent.some((m) => m.kind === 'answer')).toBe(false);
    written();
    await settle();
    expect(socket.sent.some((m) => m.kind === 'answer')).toBe(true);
  });

  it('comes back by itself with a new key, and leaves it when another window has taken its place', async () => {
    const { made, socket } = await open();
    socket.onclose?.({ code: 1006 });
    await vi.advanceTimersByTimeAsync(10_000);
    expect(FakeSocket.made.map((s) => s.protocols[1])).toEqual(['key-1', 'key-2']);
    FakeSocket.made[1]?.onclose?.({ code: 4001 });
    await vi.advanceTimersByTimeAsync(60_000);
    expect(FakeSocket.made.length).toBe(2);
    expect(made.connected).toEqual([true, false, false]);
  });
});
