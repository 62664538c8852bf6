/** Sound of panels through the server's part of it: who hears what, each choice once, and nobody themself. */
import { type WebSocket } from 'ws';
import { describe, expect, it } from 'vitest';
import { type PassHash, type Rooms } from '#core/panels/pass';
import { type ToPanel } from '#core/panels/panel-messages';
import { MOST_EARS, packSound, unpackSound } from '#core/panels/sound-line';
import { type HostLine } from './host-line';
import { Panel } from './panel';
import { PanelSound } from './panel-sound';

const PROGRAMME = { busId: 'programme', solos: [] };

function stage() {
  const told: { listen: { number: number }[]; bytes: Uint8Array[]; crews: number } = { listen: [], bytes: [], crews: 0 };
  const line = {
    talkTo: null as string | null,
    listen: (list: { number: number }[]) => (told.listen = list),
    crew: () => (told.crews += 1),
    bytes: (bytes: Uint8Array) => told.bytes.push(bytes),
  };
  const panels = new Set<Panel>();
  const sound = new PanelSound(panels);
  let numbers = 0;
  const join = (id: string, rooms: Rooms = { desk: 'work' }) => {
    const heard: ToPanel[] = [];
    const bytes: Uint8Array[] = [];
    const socket = {
      OPEN: 1,
      readyState: 1,
      bufferedAmount: 0,
      send: (data: string | Uint8Array) => (typeof data === 'string' ? heard.push(JSON.parse(data) as ToPanel) : bytes.push(data)),
    };
    numbers += 1;
    const panel = new Panel(socket as unknown as WebSocket, '', null as never, numbers);
    panel.line = line as unknown as HostLine;
    panel.pass = { id, name: id, rooms, until: null, hash: '' } satisfies PassHash;
    panels.add(panel);
    sound.settled(panel);
    const last = <K extends ToPanel['kind']>(kind: K) => heard.findLast((m): m is Extract<ToPanel, { kind: K }> => m.kind === kind);
    return { panel, bytes, last, socket };
  };
  return { told, line: line as unknown as HostLine & typeof line, sound, join, panels };
}

const word = (number = 0) => Buffer.from(packSound('talk', number, new Uint8Array([1, 2, 3])));

describe('what is listened to', () => {
  it('is asked of the host once for all who hear the same, and goes to them alone', () => {
    const { told, line, sound, join } = stage();
    const [a, b, c] = [join('a'), join('b'), join('c', { sound: 'see' })];
    sound.listen(a.panel, PROGRAMME);
    sound.listen(b.panel, PROGRAMME);
    sound.listen(c.panel, { busId: 'guests', solos: [] });
    expect(told.listen).toHaveLength(2);
    const number = a.last('ears')!.number!;
    expect(b.last('ears')!.number).toBe(number);
    sound.fromHost(line, Buffer.from(packSound('sound', number, new Uint8Array([9]))));
    expect([a.bytes.length, b.bytes.length, c.bytes.length]).toEqual([1, 1, 0]);
    // One that is behind is left out, and holds up nobody.
    a.socket.bufferedAmount = 10_000_000;
    sound.fromHost(line, Buffer.from(packSound('sound', number, new Uint8Array([9]))));
    expect([a.bytes.length, b.bytes.length]).toEqual([1, 2]);
    sound.listen(a.panel, null);
    sound.listen(b.panel, null);
    sound.listen(c.panel, null);
    expect(told.listen).toEqual([]);
  });

  it('is refused in words where the pass is not for it, or where the crew hears too many things', () => {
    const { told, sound, join } = stage();
    const desk = join('desk');
    sound.listen(desk.panel, { busId: 'guests', solos: [] });
    expect(desk.last('ears')).toMatchObject({ number: null, why: expect.stringContaining('Sound') as string });
    expect(told.listen).toEqual([]);
    const many = Array.from({ length: MOST_EARS + 1 }, (_, i) => join(`p${i}`, { sound: 'see' }));
    many.forEach(({ panel }, i) => sound.listen(panel, { busId: `bus${i}`, solos: [] }));
    expect(many.at(-1)!.last('ears')).toMatchObject({ number: null, why: expect.stringContaining('12 different') as string });
    expect(told.listen).toHaveLength(MOST_EARS);
    // A pass that is changed while one listens: what it may not hear any more ends.
    const first = many[0]!;
    first.panel.pass = { ...first.panel.pass!, rooms: { desk: 'work' } };
    sound.settled(first.panel);
    expect(first.last('ears')).toMatchObject({ number: null });
    expect(told.listen).toHaveLength(MOST_EARS - 1);
  });
});

describe('the crew', () => {
  it('hears who speaks, to all or to one, marked with who that is; nobody hears themself', () => {
    const { told, line, sound, join } = stage();
    const [a, b, again] = [join('a'), join('b'), join('a')];
    // Nothing is said without a key held.
    sound.spoken(a.panel, word());
    expect([told.bytes.length, b.bytes.length]).toEqual([0, 0]);
    sound.talk(a.panel, 'all');
    // Whatever number it gives itself, it is known by its own.
    sound.spoken(a.panel, word(77));
    expect([told.bytes.length, a.bytes.length, b.bytes.length, again.bytes.length]).toEqual([1, 0, 1, 0]);
    expect(unpackSound('talk', b.bytes[0]!)?.number).toBe(a.panel.number);
    expect(b.last('crew')?.list).toContainEqual({ number: a.panel.number, id: 'a', name: 'a', to: 'all' });
    sound.talk(a.panel, 'b');
    sound.spoken(a.panel, word());
    expect([told.bytes.length, b.bytes.length]).toEqual([1, 2]);
    sound.talk(a.panel, 'host');
    sound.spoken(a.panel, word());
    expect([told.bytes.length, b.bytes.length]).toEqual([2, 2]);
    line.talkTo = 'a';
    sound.fromHost(line, word());
    expect([a.bytes.length, again.bytes.length, b.bytes.length]).toEqual([1, 1, 2]);
    expect(told.bytes).toHaveLength(2);
  });

  it('forgets who has gone, who hangs with the key held, and what is no packet', () => {
    const { told, line, sound, join, panels } = stage();
    const [a, b] = [join('a'), join('b')];
    sound.talk(a.panel, 'all');
    sound.spoken(a.panel, Buffer.from(new Uint8Array(5000).fill(4)));
    sound.spoken(a.panel, Buffer.from([1, 2, 3, 4, 5, 6]));
    expect([told.bytes.length, b.bytes.length]).toEqual([0, 0]);
    a.panel.talkedAt -= 60_000;
    sound.look();
    expect(b.last('crew')?.list.every((m) => m.to === null)).toBe(true);
    panels.delete(a.panel);
    sound.left(line, a.panel);
    expect(b.last('crew')?.list.map((m) => m.id)).toEqual(['host', 'b']);
  });
});
