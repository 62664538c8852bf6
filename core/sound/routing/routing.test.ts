import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { components, findCycles, hasCycle } from './cycles';
import { cheapestHits } from './hitting-set';
import { EMPTY_HISTORY, redo, remember, undo } from '../../desk/history';
import { type Desk } from '../../desk/air';
import { routingReport } from './findings';
import { hearsOf } from './hears';
import { loopReport } from './loops';
import { matrixOf } from './matrix';
import { signalGraph } from './signal-graph';

/** Every elementary cycle, by walking every path: each as its nodes in order from the lowest. */
function everyCycle(out: readonly (readonly number[])[]): number[][] {
  const found: number[][] = [];
  const walk = (path: number[]) => {
    for (const v of out[path.at(-1) as number] as number[]) {
      if (v === path[0]) found.push([...path]);
      else if (v > (path[0] as number) && !path.includes(v)) walk([...path, v]);
    }
  };
  out.forEach((_, v) => walk([v]));
  return found;
}

const fromLowest = (cycle: readonly number[]) => {
  const at = cycle.indexOf(Math.min(...cycle));
  return [...cycle.slice(at), ...cycle.slice(0, at)].join(' ');
};

const graphs = fc
  .integer({ min: 1, max: 9 })
  .chain((n) =>
    fc
      .array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1)), { maxLength: 40 })
      .map((pairs) => Array.from({ length: n }, (_, v) => [...new Set(pairs.filter(([a]) => a === v).map(([, b]) => b))])),
  );

describe('cycles', () => {
  it('are those of a brute-force search; where there are too many, those of them without a shortcut', () => {
    fc.assert(
      fc.property(graphs, (out) => {
        const chords = (cycle: number[]) =>
          cycle.some((v, i) => cycle.some((w, j) => j !== (i + 1) % cycle.length && (out[v] as number[]).includes(w)));
        const { cycles, more } = findCycles(out);
        const wanted = more ? everyCycle(out).filter((c) => !chords(c)) : everyCycle(out);
        expect(cycles.map(fromLowest).sort()).toEqual(wanted.map(fromLowest).sort());
        if (!more) {
          const few = findCycles(out, 3);
          if (few.more) expect(few.cycles.every((c) => !chords(c))).toBe(true);
        }
        expect(hasCycle(out)).toBe(everyCycle(out).length > 0);
      }),
      { numRuns: 500 },
    );
  });

  it('leave none when each is cut somewhere', () => {
    fc.assert(
      fc.property(graphs, (out) => {
        const { cycles, more } = findCycles(out);
        const sets = cycles.map((c) => c.map((v, i) => v * 100 + (c[(i + 1) % c.length] as number)));
        const cut = new Set(cheapestHits(sets, () => 1));
        if (!more) expect(everyCycle(out.map((row, v) => row.filter((w) => !cut.has(v * 100 + w))))).toEqual([]);
        expect(sets.every((set) => set.some((e) => cut.has(e)))).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  it('are in components whose nodes all reach each other', () => {
    fc.assert(
      fc.property(graphs, (out) => {
        const reach = (from: number) => {
          const seen = new Set<number>();
          const queue = [...(out[from] as number[])];
          for (let v = queue.pop(); v !== undefined; v = queue.pop()) {
            if (seen.has(v)) continue;
            seen.add(v);
            queue.push(...(out[v] as number[]));
          }
          return seen;
        };
        const together = new Set(components(out.length, (v, at) => out[v]?.[at]).flat());
        out.forEach((_, v) => expect(together.has(v)).toBe(reach(v).has(v)));
      }),
      { numRuns: 300 },
    );
  });

  it('ends in time where there are endless ones, and says so', () => {
    const all = Array.from({ length: 40 }, (_, v) => Array.from({ length: 40 }, (__, w) => w).filter((w) => w !== v));
    const { cycles, more } = findCycles(all);
    expect(cycles.length).toBe(120);
    expect(more).toBe(true);
  });
});

describe('the cheapest hits', () => {
  it('are as cheap as the best of all choices', () => {
    fc.assert(
      fc.property(fc.array(fc.uniqueArray(fc.nat(6), { minLength: 1, maxLength: 3 }), { maxLength: 6 }), (sets) => {
        const cost = (i: number) => 1 + (i % 3) * 0.5;
        const price = (items: readonly number[]) => items.reduce((sum, i) => sum + cost(i), 0);
        let best = Infinity;
        for (let mask = 0; mask < 128; mask += 1) {
          const items = [0, 1, 2, 3, 4, 5, 6].filter((i) => mask & (1 << i));
          if (sets.every((s) => s.some((i) => items.includes(i)))) best = Math.min(best, price(items));
        }
        expect(price(cheapestHits(sets, cost))).toBeCloseTo(best, 9);
      }),
    );
  });
});

const CARD = { deviceId: 'card', deviceLabel: 'Pier card' };

/** A pier: PA on outputs 1–2, field microphones on inputs 3–4 that pick it up, a guest, a producer. */
function pier(): Desk {
  let desk = must(sampleDesk(), 'sound.addChannel', { name: 'Field', feed: { kind: 'device', ...CARD, first: 3, stereo: true } });
  const field = desk.show.sound.inputs[0]?.id;
  desk = must(desk, 'sound.nameSocket', { end: 'output', port: { ...CARD, pair: 1 }, name: 'Pier PA' });
  desk = must(desk, 'sound.nameSocket', { end: 'input', port: { ...CARD, pair: 2 }, name: 'pier microphones' });
  desk = must(desk, 'sound.addAirPath', { from: { ...CARD, pair: 1 }, to: { ...CARD, pair: 2 }, levelDb: -12, delayMs: 30 });
  desk = must(desk, 'listener.add', { name: 'Room', kind: 'room', ownIds: [field] });
  desk = must(desk, 'sound.plug', { bus: desk.show.sound.buses[1]?.id, to: { ...CARD, pair: 1 } });
  return desk;
}
const roomBus = (desk: Desk) => desk.show.sound.buses.find((b) => b.name === 'Room')?.id ?? '';
const idOf = (desk: Desk, name: string) => desk.show.sound.inputs.find((c) => c.name === name)?.id ?? '';

describe('the rules', () => {
  it('make a mix-minus that follows when guests come and go', () => {
    let desk = must(sampleDesk(), 'listener.add', { name: 'Analyst', kind: 'guest', ownIds: ['a'] });
    desk = must(desk, 'listener.add', { name: 'Judge', kind: 'guest', ownIds: ['b'] });
    const [analyst, judge] = desk.show.sound.buses.slice(1).map((b) => b.id) as [string, string];
    const heard = (bus: string, d = desk) =>
      matrixOf(d.show)
        .open.filter((p) => p.busId === bus)
        .map((p) => p.fromId)
        .sort();
    expect(heard(analyst)).toEqual(['b', 'c', 'clip']);
    expect(heard(judge)).toEqual(['a', 'c', 'clip']);
    expect(matrixOf(desk.show).at('a', analyst)).toMatchObject({ on: false, by: 'rule', why: 'Analyst would hear themself' });
    const gone = must(must(desk, 'picture.setNext', { picture: 'c' }), 'source.remove', { source: 'b', force: true });
    expect(gone.show.sound.buses.map((b) => b.name)).toEqual(['Programme', 'Analyst']);
    expect(heard(analyst, gone)).toEqual(['c', 'clip']);
  });

  it('are overridden by hand, and come back', () => {
    let desk = must(sampleDesk(), 'listener.add', { name: 'Analyst', kind: 'guest', ownIds: ['a'] });
    const bus = desk.show.sound.buses[1]?.id ?? '';
    desk = must(desk, 'sound.setSend', { from: 'c', bus, on: false });
    expect(matrixOf(desk.show).at('c', bus)).toMatchObject({ on: false, by: 'hand' });
    desk = must(desk, 'sound.sendByRule', { from: 'c', bus });
    expect(matrixOf(desk.show).at('c', bus)).toMatchObject({ on: true, by: 'rule' });
  });

  it('let the producer hear the guests alone, and nobody hear the producer', () => {
    let desk = must(sampleDesk(), 'listener.add', { name: 'Analyst', kind: 'guest', ownIds: ['a'] });
    desk = must(desk, 'listener.add', { name: 'Producer', kind: 'producer', ownIds: ['c'] });
    const producer = desk.show.sound.buses[2]?.id;
    const { open } = matrixOf(desk.show);
    expect(open.filter((p) => p.busId === producer).map((p) => [p.fromId, p.tap])).toEqual([['a', 'before']]);
    expect(open.filter((p) => p.fromId === 'c')).toEqual([]);
  });

  it('know whoever fills a seat as the owner of its sound', () => {
    let desk = must(sampleDesk(), 'seat.add', { name: 'Guest 1' });
    const seatId = desk.show.seats[0]?.id;
    desk = must(desk, 'sound.addChannel', { name: 'Guest 1', feed: { kind: 'seat', seatId } });
    const channel = idOf(desk, 'Guest 1');
    desk = must(desk, 'listener.add', { name: 'Guest 1', kind: 'guest', ownIds: [channel] });
    const bus = desk.show.sound.buses[1]?.id ?? '';
    desk = must(desk, 'seat.fill', { seat: seatId, occupant: 'b' });
    const ear = (d: Desk) => {
      const graph = signalGraph(d.show);
      return hearsOf(graph, graph.index.get(`bus:${bus}`) as number).map((h) => h.key);
    };
    // The camera in the seat is heard through the seat's channel, and so not by this guest.
    expect(ear(desk)).toEqual(['src:a', 'src:c', 'src:clip']);
    expect(ear(must(desk, 'seat.fill', { seat: seatId, occupant: 'c' }))).toEqual(['src:a', 'src:b', 'src:clip']);
  });
});

describe('loops', () => {
  it('are told as a path, refused before they are closed, and broken by the fewest changes', () => {
    const desk = pier();
    expect(loopReport(desk.show).loops).toEqual([]);
    const refused = attempt(desk, 'sound.setSend', { from: idOf(desk, 'Field'), bus: roomBus(desk), on: true });
    expect(refused).toMatchObject({ ok: false, error: { code: 'loop', field: 'anyway' } });
    const path = 'Pier PA → pier microphones → channel Field → bus Room → outputs 1–2 → Pier PA';
    expect(refused.ok ? '' : refused.error.message).toContain(path);
    const looped = must(desk, 'sound.setSend', { from: idOf(desk, 'Field'), bus: roomBus(desk), on: true, anyway: true });
    const report = loopReport(looped.show);
    expect(report.loops).toHaveLength(1);
    expect(report.loops[0]).toMatchObject({ words: path, db: -12, delayMs: 30 });
    expect(report.breaks.map((e) => e.kind)).toEqual(['send']);
    const [finding] = routingReport(looped.show).findings;
    expect(finding).toMatchObject({
      kind: 'loop',
      crosspoints: [`${idOf(desk, 'Field')} ${roomBus(desk)}`],
      fix: { text: 'Close channel Field in bus Room' },
    });
    const fixed = must(looped, finding?.fix?.command.type ?? '', finding?.fix?.command.args ?? {});
    expect(loopReport(fixed.show).loops).toEqual([]);
    expect(matrixOf(fixed.show).at(idOf(desk, 'Field'), roomBus(desk)).on).toBe(false);
  });

  it('are found through the card’s own mixer, and when a mute or a fader opens', () => {
    let desk = pier();
    const field = idOf(desk, 'Field');
    desk = must(desk, 'sound.mute', { channel: field, on: true });
    desk = must(desk, 'sound.setSend', { from: field, bus: roomBus(desk), on: true });
    expect(loopReport(desk.show).loops).toEqual([]);
    expect(attempt(desk, 'sound.mute', { channel: field, on: false })).toMatchObject({ ok: false, error: { code: 'loop' } });
    // A guest's return leaves by outputs 5–6, which the card itself adds to input 3–4.
    let ganged = must(pier(), 'sound.addBus', { name: 'Return' });
    const back = ganged.show.sound.buses[2]?.id;
    ganged = must(ganged, 'sound.plug', { bus: back, to: { ...CARD, pair: 3 } });
    ganged = must(ganged, 'sound.setSend', { from: idOf(ganged, 'Field'), bus: back, on: true });
    const mix = { deviceId: 'card', deviceLabel: 'Pier card', from: 'output', fromPair: 3, to: 'input', toPair: 2 };
    expect(attempt(ganged, 'sound.addCardMix', mix)).toMatchObject({ ok: false, error: { code: 'loop' } });
    const looped = must(ganged, 'sound.addCardMix', { ...mix, anyway: true });
    expect(loopReport(looped.show).loops[0]).toMatchObject({ db: 0 });
    expect(loopReport(must(looped, 'sound.breakLoops').show).loops).toEqual([]);
  });

  it('are refused when a seat is filled, when a source gets another microphone, and when an undo would bring one back', () => {
    const loop = { ok: false, error: { code: 'loop', field: 'anyway' } };
    const deaf = {
      kind: 'camera',
      deviceId: 'cam',
      deviceLabel: 'Pier camera',
      width: 0,
      height: 0,
      frameRate: 0,
      audioDeviceId: null,
      audioDeviceLabel: '',
    };
    const hearing = { ...deaf, audioDeviceId: CARD.deviceId, audioDeviceLabel: CARD.deviceLabel };
    let desk = pier();
    // The camera's microphone is input 1–2 of the card, where the loudspeakers are heard.
    desk = must(desk, 'sound.addAirPath', { from: { ...CARD, pair: 1 }, to: { ...CARD, pair: 1 }, levelDb: -20 });
    expect(attempt(desk, 'source.add', { name: 'Pier', settings: hearing })).toMatchObject(loop);
    desk = must(desk, 'source.add', { name: 'Pier', settings: deaf });
    const pierCamera = desk.show.sources.at(-1)?.id ?? '';
    expect(attempt(desk, 'source.setSettings', { source: pierCamera, settings: hearing })).toMatchObject(loop);

    desk = must(desk, 'seat.add', { name: 'Host' });
    desk = must(desk, 'seat.add', { name: 'Guest' });
    const [host, guest] = desk.show.seats.map((s) => s.id);
    desk = must(desk, 'sound.addChannel', { name: 'Host', feed: { kind: 'seat', seatId: host } });
    // Its own channel is closed in the room's mix, so the camera may hear; the seat's is open there.
    desk = must(desk, 'source.setSettings', { source: pierCamera, settings: hearing, anyway: true });
    desk = must(desk, 'sound.setSend', { from: pierCamera, bus: roomBus(desk), on: false });
    expect(loopReport(desk.show).loops).toEqual([]);
    expect(attempt(desk, 'seat.fill', { seat: host, occupant: pierCamera })).toMatchObject(loop);
    const seated = must(desk, 'seat.fill', { seat: guest, occupant: pierCamera });
    expect(attempt(seated, 'seat.swap', { a: host, b: guest })).toMatchObject(loop);
    const looped = must(desk, 'seat.fill', { seat: host, occupant: pierCamera, anyway: true });
    expect(loopReport(looped.show).loops).toHaveLength(1);

    const broken = attempt(looped, 'seat.fill', { seat: host, occupant: null });
    if (!broken.ok) throw new Error(broken.error.message);
    const history = remember(EMPTY_HISTORY, 'Empty the seat', broken.patches, broken.inverse, null, 0);
    expect(() => undo(history, broken.desk)).toThrow(/would close a loop/);
    const back = undo(history, broken.desk, true);
    expect(back.desk.show).toEqual(looped.show);
    // Forward again opens the loop, which nobody minds.
    expect(loopReport(redo(back.history, back.desk).desk.show).loops).toEqual([]);
  });

  it('of random routings are all broken by one press, and every one that is listed is really there', () => {
    const moves = fc.array(fc.tuple(fc.nat(5), fc.nat(3)), { maxLength: 14 });
    fc.assert(
      fc.property(moves, fc.array(fc.tuple(fc.nat(3), fc.nat(2)), { maxLength: 5 }), (sends, plugs) => {
        let desk = pier();
        for (const name of ['One', 'Two']) desk = must(desk, 'sound.addBus', { name });
        const buses = desk.show.sound.buses.map((b) => b.id);
        const starts = [idOf(desk, 'Field'), 'a', ...buses];
        for (const [from, bus] of sends)
          if (starts[from] !== buses[bus])
            desk = must(desk, 'sound.setSend', { from: starts[from], bus: buses[bus], on: true, anyway: true });
        for (const [bus, pair] of plugs) {
          const outcome = attempt(desk, 'sound.plug', { bus: buses[bus], to: { ...CARD, pair: pair + 1 }, anyway: true });
          if (outcome.ok) ({ desk } = outcome);
        }
        const graph = signalGraph(desk.show);
        const report = loopReport(desk.show);
        const out = graph.nodes.map((_, v) => [...new Set((graph.out[v] as number[]).map((e) => graph.edges[e]?.to as number))]);
        expect(report.loops.length > 0).toBe(hasCycle(out));
        for (const { keys } of report.loops)
          keys.forEach((key, i) =>
            expect(out[graph.index.get(key) as number]).toContain(graph.index.get(keys[(i + 1) % keys.length] as string)),
          );
        if (report.loops.length === 0) return;
        expect(report.stays).toBe(false);
        expect(report.breaks.length).toBeLessThanOrEqual(report.loops.length);
        expect(loopReport(must(desk, 'sound.breakLoops').show).loops).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  it('through a guest who listens by loudspeaker are found, and told to be theirs', () => {
    let desk = must(sampleDesk(), 'listener.add', { name: 'Analyst', kind: 'guest', ownIds: ['a'] });
    const guest = desk.show.sound.listeners.at(-1)?.id;
    const bus = desk.show.sound.buses[1]?.id;
    desk = must(desk, 'listener.set', { listener: guest, open: true });
    expect(loopReport(desk.show).loops).toEqual([]);
    const outcome = attempt(desk, 'sound.setSend', { from: 'a', bus, on: true });
    expect(outcome.ok ? '' : outcome.error.message).toContain('Analyst → channel Camera a → bus Analyst → Analyst');
  });
});

describe('what a listener hears', () => {
  it('is listed by level, with every path and why', () => {
    let desk = must(sampleDesk(), 'sound.setFader', { channel: 'b', db: -8 });
    desk = must(desk, 'sound.setFader', { channel: 'c', db: -60 });
    desk = must(desk, 'sound.mute', { channel: 'clip', on: true });
    const graph = signalGraph(desk.show);
    const heard = hearsOf(graph, graph.index.get('ear:stream') as number);
    expect(heard.map((h) => [h.name, h.db])).toEqual([
      ['Camera a', 0],
      ['Camera b', -8],
    ]);
    expect(heard[0]?.paths[0]).toMatchObject({
      words: 'Camera a → channel Camera a → bus Programme → Stream',
      why: 'Stream hears the programme',
    });
  });

  it('goes by the outputs where they really listen', () => {
    let desk = pier();
    desk = must(desk, 'sound.addBus', { name: 'Ears' });
    const ears = desk.show.sound.buses[2]?.id;
    desk = must(desk, 'sound.plug', { bus: ears, to: { ...CARD, pair: 2 } });
    desk = must(desk, 'listener.add', { name: 'Presenter', kind: 'presenter', bus: ears });
    desk = must(desk, 'listener.set', { listener: desk.show.sound.listeners.at(-1)?.id, rule: 'hand', place: { ...CARD, pair: 2 } });
    const hears = (d: Desk) => {
      const graph = signalGraph(d.show);
      return hearsOf(graph, graph.index.get(`ear:${d.show.sound.listeners.at(-1)?.id}`) as number).map((h) => h.name);
    };
    expect(hears(desk)).toEqual([]);
    // The card adds outputs 1–2 to 3–4: the presenter hears the room's mix.
    desk = must(desk, 'sound.addCardMix', {
      deviceId: 'card',
      deviceLabel: 'Pier card',
      from: 'output',
      fromPair: 1,
      to: 'output',
      toPair: 2,
    });
    expect(hears(desk)).toEqual(expect.arrayContaining(['Camera a', 'Camera b']));
    expect(routingReport(desk.show).findings.find((f) => f.kind === 'ganged')?.text).toContain(
      'whatever plays on outputs 1–2 is heard on outputs 3–4 too',
    );
  });
});

describe('findings', () => {
  const kinds = (desk: Desk) => routingReport(desk.show).findings.map((f) => f.kind);

  it('are none for a show that is in order', () => {
    expect(routingReport(pier().show).findings.filter((f) => f.tone === 'trouble')).toEqual([]);
  });

  it('name a listener who hears themself, and put it right', () => {
    let desk = must(sampleDesk(), 'listener.add', { name: 'Analyst', kind: 'guest', ownIds: ['a'] });
    desk = must(desk, 'sound.setSend', { from: 'a', bus: desk.show.sound.buses[1]?.id, on: true });
    const finding = routingReport(desk.show).findings.find((f) => f.kind === 'self');
    expect(finding?.text).toContain('Analyst hears themself');
    const fixed = must(desk, finding?.fix?.command.type ?? '', finding?.fix?.command.args ?? {});
    expect(kinds(fixed)).not.toContain('self');
  });

  it('name a crew microphone in the programme', () => {
    let desk = must(sampleDesk(), 'listener.add', { name: 'Producer', kind: 'producer', ownIds: ['c'] });
    expect(kinds(desk)).not.toContain('crew');
    desk = must(desk, 'sound.setSend', { from: 'c', bus: 'programme', on: true });
    expect(routingReport(desk.show).findings.find((f) => f.kind === 'crew')).toMatchObject({
      text: 'The programme hears the crew: Camera c',
      fix: { command: { type: 'sound.setSend' } },
    });
  });

  it('name a sound that comes twice, with the time between', () => {
    let desk = must(sampleDesk(), 'sound.addBus', { name: 'Effects' });
    const bus = desk.show.sound.buses[1]?.id;
    desk = must(desk, 'sound.setSend', { from: 'a', bus, on: true });
    desk = must(desk, 'sound.setSend', { from: bus, bus: 'programme', on: true });
    expect(routingReport(desk.show).findings.find((f) => f.kind === 'twice')?.text).toContain('Camera a twice, at the same time');
    let mics = must(sampleDesk(), 'sound.addChannel', { name: 'Mic', feed: { kind: 'device', ...CARD, first: 1, stereo: true } });
    mics = must(mics, 'sound.addChannel', { name: 'Same mic', feed: { kind: 'device', ...CARD, first: 1, stereo: true } });
    mics = must(mics, 'sound.setChannel', { channels: [idOf(mics, 'Same mic')], delayMs: 12 });
    expect(routingReport(mics.show).findings.find((f) => f.kind === 'twice')?.text).toContain(
      'inputs 1–2 twice, 12 ms apart: it sounds hollow',
    );
  });

  it('name a bus that nobody hears, and a source that reaches nobody', () => {
    let desk = must(sampleDesk(), 'sound.addBus', { name: 'Spare' });
    desk = must(desk, 'sound.setSend', { from: 'c', bus: 'programme', on: false });
    const texts = routingReport(desk.show).findings.map((f) => f.text);
    expect(texts).toContain('Nobody hears bus Spare: it is plugged into no output');
    expect(texts).toContain('Camera c reaches nobody');
  });

  it('name outputs that two buses share', () => {
    let desk = must(pier(), 'sound.addBus', { name: 'Other' });
    desk = must(desk, 'sound.plug', { bus: desk.show.sound.buses[2]?.id, to: { ...CARD, pair: 1 } });
    expect(routingReport(desk.show).findings.find((f) => f.kind === 'shared')?.text).toBe('Outputs 1–2 play Room and Other together');
  });
});
