/** The line of a panel between fakes: one that is lost, slow, or tells things late and out of order. */
import { enablePatches } from 'immer';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { type FromPanel, PANEL_CLOSED, type ToPanel } from '#core/panels/panel-messages';
import { attempt, sampleDesk } from '#tests/support/sample-show';
import { type PanelClient, PanelLink } from './panel-client';

enablePatches();

/** The server's end of every line that a panel has opened. */
class FakeSocket {
  static readonly OPEN = 1;
  static all: FakeSocket[] = [];
  readyState = 0;
  bufferedAmount = 0;
  binaryType = '';
  readonly sent: FromPanel[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onclose: ((event: { code: number }) => void) | null = null;

  constructor() {
    FakeSocket.all.push(this);
  }

  send(data: string | Uint8Array): void {
    if (typeof data === 'string') this.sent.push(JSON.parse(data) as FromPanel);
  }

  close(code = 1005): void {
    if (this.readyState === 3) return;
    this.readyState = 3;
    this.onclose?.({ code });
  }

  open(): void {
    this.readyState = 1;
    this.onopen?.();
  }

  say(...messages: ToPanel[]): void {
    for (const message of messages) this.onmessage?.({ data: JSON.stringify(message) });
  }
}

const pass = { id: 'p1', name: 'Mara', rooms: { desk: 'work', sound: 'work' } as const, until: null };
let desk = sampleDesk();
let link: PanelLink;
let client: PanelClient | null = null;

beforeEach(() => {
  vi.useFakeTimers();
  FakeSocket.all = [];
  desk = sampleDesk();
  client = null;
  vi.stubGlobal('WebSocket', FakeSocket);
  vi.stubGlobal('location', { href: 'http://localhost/' });
  vi.stubGlobal('document', {
    hidden: false,
    createElement: () => ({ getContext: () => null }),
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  });
  link = new PanelLink('show', 'secret', (made) => (client = made));
});
afterEach(() => {
  link.close();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const line = () => FakeSocket.all.at(-1)!;
const state = (revision = 0): ToPanel => ({ kind: 'state', revision, ...desk, frame: 7, status: {} });
/** The server answers as it does: pass, then state. */
function arrive(session = 's1', revision = 0): FakeSocket {
  const socket = line();
  socket.open();
  socket.say({ kind: 'entered', pass, showId: 'show', session }, state(revision));
  return socket;
}
const sent = (socket: FakeSocket, kind: FromPanel['kind']) => socket.sent.filter((m) => m.kind === kind);
const onAir = () => client!.state.desk.air.onAirId;
/** What the host makes of the panel's last command, as the change that it tells. */
function done(socket: FakeSocket, revision: number): ToPanel {
  const command = sent(socket, 'command').at(-1) as Extract<FromPanel, { kind: 'command' }>;
  const { type, args } = command.commands[0] as { type: string; args?: Record<string, unknown> };
  const outcome = attempt(desk, type, args);
  if (!outcome.ok) throw new Error(outcome.error.message);
  desk = outcome.desk;
  return { kind: 'patches', revision, frame: 8, patches: outcome.patches, of: command.key };
}

it('enters anew when it is lost, waits longer each time, and says what was never answered', () => {
  const first = arrive();
  expect(client!.dispatch({ type: 'picture.cut', args: { picture: 'b' } }).ok).toBe(true);
  expect(link.panel.getState().sent).toBe(1);
  first.close();
  expect(link.panel.getState()).toMatchObject({ line: 'lost', sent: 0 });
  expect(client!.state.notices.at(-1)?.text).toMatch(/not answered/);
  expect(client!.dispatch({ type: 'picture.cut', args: { picture: 'c' } })).toMatchObject({ ok: false, error: { code: 'failed' } });
  // Half a second, then one, then two.
  for (const [waits, lines] of [
    [500, 2],
    [1000, 3],
    [2000, 4],
  ] as const) {
    vi.advanceTimersByTime(waits - 1);
    expect(FakeSocket.all).toHaveLength(lines - 1);
    vi.advanceTimersByTime(1);
    expect(FakeSocket.all).toHaveLength(lines);
    if (lines < 4) line().close();
  }
  const again = arrive('s2', 12);
  expect(link.panel.getState()).toMatchObject({ line: 'open', message: '' });
  expect(client!.dispatch({ type: 'picture.cut', args: { picture: 'c' } }).ok).toBe(true);
  again.say(done(again, 13));
  expect(onAir()).toBe('c');
});

it('takes a line that says nothing for dead', () => {
  const socket = arrive();
  for (let i = 0; i < 5; i += 1) {
    vi.advanceTimersByTime(2000);
    socket.say({ kind: 'ping', at: i });
  }
  expect(sent(socket, 'pong')).toHaveLength(5);
  expect(link.panel.getState().line).toBe('open');
  vi.advanceTimersByTime(9000);
  expect(link.panel.getState().line).toBe('lost');
  expect(FakeSocket.all.length).toBeGreaterThan(1);
});

it('comes to what the host has, whichever of change and answer is first, and whatever it misses', () => {
  const socket = arrive();
  client!.dispatch({ type: 'picture.setNext', args: { picture: 'c' } });
  const key = (sent(socket, 'command')[0] as { key: string }).key;
  // The answer before the change: it is sent no more, and comes with the change.
  const change = done(socket, 1);
  socket.say({ kind: 'answer', key, outcome: { ok: true, result: {} } });
  expect(link.panel.getState().sent).toBe(0);
  socket.say(change);
  expect(client!.state.desk.air.nextId).toBe('c');
  // A change that was missed: the whole state is asked for, and what comes meanwhile does no harm.
  client!.dispatch({ type: 'picture.cut', args: { picture: 'b' } });
  done(socket, 2);
  client!.dispatch({ type: 'picture.cut', args: { picture: 'c' } });
  socket.say(done(socket, 3));
  expect(sent(socket, 'snapshot').length).toBeGreaterThan(0);
  socket.say(state(3));
  expect(onAir()).toBe('c');
  // A change that comes twice counts once.
  socket.say({ kind: 'patches', revision: 3, frame: 9, patches: [{ op: 'replace', path: ['air', 'onAirId'], value: 'a' }] });
  expect(onAir()).toBe('c');
});

it('shows nothing that was refused, in whichever order it is told', () => {
  const socket = arrive();
  const cut = (picture: string) => client!.dispatch({ type: 'picture.cut', args: { picture } }).ok;
  expect([cut('b'), cut('c')]).toEqual([true, true]);
  const [first, second] = (sent(socket, 'command') as { key: string }[]).map((m) => m.key);
  socket.say(
    { kind: 'answer', key: second!, outcome: { ok: false, error: { code: 'failed', message: 'No.' } } },
    { kind: 'answer', key: first!, outcome: { ok: false, error: { code: 'failed', message: 'Neither.' } } },
    { kind: 'answer', key: 'never-sent', outcome: { ok: true, result: {} } },
  );
  expect(onAir()).toBe('a');
  expect(client!.state.notices.map((n) => n.text)).toEqual(['No.', 'Neither.']);
});

it('keeps its own ears through all of it, and does not come back when it is sent away', () => {
  const first = arrive();
  expect(client!.dispatch({ type: 'sound.solo', args: { channel: 'a' } }).ok).toBe(true);
  expect(sent(first, 'command')).toEqual([]);
  expect(client!.state.desk.air.sound.solos).toEqual([{ id: 'a', tap: 'after' }]);
  first.close();
  vi.advanceTimersByTime(500);
  const again = arrive('s2', 5);
  expect(client!.state.desk.air.sound.solos).toEqual([{ id: 'a', tap: 'after' }]);
  expect(client!.dispatch({ type: 'sound.solo', args: { channel: 'nothing' } })).toMatchObject({ ok: false });
  again.close(PANEL_CLOSED.withdrawn);
  expect(link.panel.getState().line).toBe('refused');
  vi.advanceTimersByTime(60_000);
  expect(FakeSocket.all).toHaveLength(2);
});
