/** Devices: addresses, OSC and MIDI in words and bytes, framing, holes, and what commands put into air. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createWhen } from '../automation/create';
import { happened } from '../automation/watch';
import { execute } from '../desk/execute';
import { EMPTY_HISTORY } from '../desk/history';
import { perform } from '../desk/session';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { rightSettings } from './address';
import { firstSettings } from './create';
import { type OscSettings, type TcpSettings } from './document';
import { framed, MOST_WAITING, readerFor } from './framing';
import { fillHoles } from './holes';
import { matches } from './match';
import { MidiError, midiWords, readMidi } from './midi-words';
import { decodeOsc, encodeOsc, type OscArgument, OscError } from './osc';
import { oscWords, readArguments } from './osc-words';
import { numbersIn, saidOf, saidWords, sweptSaid } from './said';

const context = { frame: 40, newId: () => `id-${(ids += 1)}` };
let ids = 0;

function withDevice(kind: 'http' | 'tcp' | 'osc' | 'midi', message: Record<string, unknown> = {}) {
  let desk = must(sampleDesk(), 'device.add', { kind, name: 'Lamps' });
  const device = desk.show.devices[0]!.id;
  desk = must(desk, 'message.add', { device, name: 'Lamp', ...message });
  return { desk, device, message: desk.show.devices[0]!.messages[0]!.id };
}

describe('an address', () => {
  const tcp = (host: string, port = 5000) => rightSettings({ kind: 'tcp', host, port, ending: 'lf' } as const);
  it('is put right where it is sure what is meant, and the port never changes', () => {
    expect(tcp(' http://lamps.local/ ')).toMatchObject({ ok: true, settings: { host: 'lamps.local', port: 5000 } });
    expect(tcp('10.0.0.4:5000')).toMatchObject({ ok: true, settings: { host: '10.0.0.4', port: 5000 } });
    expect(tcp('10.0.0.4:5001')).toMatchObject({ ok: false, message: expect.stringContaining('5001') as string });
    expect(tcp('::1')).toMatchObject({ ok: true });
    for (const wrong of ['', '300.1.1.1', '1.2.3', 'a b', '-x', 'x..y']) expect(tcp(wrong).ok, wrong).toBe(false);
    const http = (address: string) => rightSettings({ kind: 'http', address } as const);
    expect(http('wall.local:8080/api')).toMatchObject({ ok: true, settings: { address: 'http://wall.local:8080/api' } });
    expect(http('https://user:pw@wall').ok).toBe(false);
    expect(http('ftp://wall').ok).toBe(false);
    expect(rightSettings({ kind: 'websocket', address: 'https://wall/x' } as const)).toMatchObject({
      settings: { address: 'wss://wall/x' },
    });
    fc.assert(
      fc.property(fc.string(), fc.integer({ min: 1, max: 65_535 }), (host, port) => {
        const righted = tcp(host, port);
        expect(righted.ok ? righted.settings.port : port).toBe(port);
      }),
    );
  });
});

/** A value that OSC carries exactly. */
const argument: fc.Arbitrary<OscArgument> = fc.oneof(
  fc.record({ type: fc.constant('i'), value: fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }) }),
  fc.record({ type: fc.constant('f'), value: fc.float({ noNaN: true, noDefaultInfinity: true }).map((x) => x + 0) }),
  fc.record({ type: fc.constant('d'), value: fc.double({ noNaN: true, noDefaultInfinity: true }).map((x) => x + 0) }),
  fc.record({ type: fc.constant('s'), value: fc.string({ unit: 'grapheme' }).filter((s) => !s.includes('\0')) }),
  fc.record({ type: fc.constant('b'), value: fc.uint8Array({ maxLength: 40 }) }),
  fc.record({ type: fc.constant('T'), value: fc.constant(true) }),
  fc.record({ type: fc.constant('F'), value: fc.constant(false) }),
  fc.record({ type: fc.constant('N'), value: fc.constant(null) }),
);

describe('OSC', () => {
  it('is the bytes of the examples of its specification, and comes back from them', () => {
    const hex = (bytes: Uint8Array) => [...bytes].map((b) => b.toString(16).padStart(2, '0')).join(' ');
    const freq = encodeOsc({ address: '/oscillator/4/frequency', args: [{ type: 'f', value: 440 }] });
    expect(hex(freq)).toBe('2f 6f 73 63 69 6c 6c 61 74 6f 72 2f 34 2f 66 72 65 71 75 65 6e 63 79 00 2c 66 00 00 43 dc 00 00');
    const foo = encodeOsc({ address: '/foo', args: readArguments('1000 -1 hello 1.234 5.678') });
    expect(hex(foo)).toBe(
      '2f 66 6f 6f 00 00 00 00 2c 69 69 73 66 66 00 00 00 00 03 e8 ff ff ff ff 68 65 6c 6c 6f 00 00 00 3f 9d f3 b6 40 b5 b2 2d',
    );
  });

  it('comes back from any message, as bytes and in words', () => {
    fc.assert(
      fc.property(fc.array(argument, { maxLength: 8 }), (args) => {
        const message = { address: '/pier/lamp', args };
        const [back] = decodeOsc(encodeOsc(message));
        expect(back).toEqual(message);
        // In words, numbers keep what they can carry.
        const words = oscWords(message);
        expect(decodeOsc(encodeOsc({ address: '/pier/lamp', args: readArguments(words.slice('/pier/lamp'.length)) }))[0]).toEqual(message);
      }),
      // The ends of what 32 bits hold.
      { examples: [[[{ type: 'i', value: -(2 ** 31) }]], [[{ type: 'i', value: 2 ** 31 - 1 }]]] },
    );
  });

  it('answers damage of any kind with its own error', () => {
    const whole = encodeOsc({ address: '/a', args: readArguments('1 "two" blob:0a0b') });
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), fc.nat(40), (noise, cut) => {
        for (const bytes of [noise, whole.subarray(0, cut)])
          try {
            decodeOsc(bytes);
          } catch (error) {
            expect(error).toBeInstanceOf(OscError);
          }
      }),
    );
    // A bundle in a bundle in a bundle, for ever.
    let bundle = encodeOsc({ address: '/a', args: [] });
    for (let i = 0; i < 20; i += 1) {
      const next = new Uint8Array(20 + bundle.length);
      next.set(new TextEncoder().encode('#bundle'));
      new DataView(next.buffer).setInt32(16, bundle.length);
      next.set(bundle, 20);
      bundle = next;
    }
    expect(() => decodeOsc(bundle)).toThrow(OscError);
  });
});

describe('a stream', () => {
  const HOWS = ['lf', 'crlf', 'cr', 'nul', 'tcp-length', 'tcp-slip'] as const satisfies readonly (
    TcpSettings['ending'] | OscSettings['carrier']
  )[];
  it('gives the same messages wherever it is cut', () => {
    const text = fc.array(fc.integer({ min: 0x20, max: 0xff }), { minLength: 1, maxLength: 20 }).map((a) => Uint8Array.from(a));
    fc.assert(
      fc.property(fc.constantFrom(...HOWS), fc.array(text, { minLength: 1, maxLength: 6 }), fc.array(fc.nat(30)), (how, messages, cuts) => {
        const all = messages.flatMap((m) => [...framed(m, how)]);
        const reader = readerFor(how);
        const found: Uint8Array[] = [];
        let at = 0;
        for (const cut of [...cuts, all.length]) {
          found.push(...reader.read(Uint8Array.from(all.slice(at, at + cut))));
          at += cut;
        }
        found.push(...reader.read(Uint8Array.from(all.slice(at))));
        expect(found.map((f) => [...f])).toEqual(messages.map((m) => [...m]));
      }),
    );
  });

  it('without an end is thrown away, and goes on with the next', () => {
    for (const how of ['lf', 'tcp-slip'] as const) {
      const reader = readerFor(how);
      for (let i = 0; i < 40; i += 1) reader.read(new Uint8Array(MOST_WAITING / 10).fill(65));
      expect(reader.lost).toBeGreaterThan(MOST_WAITING);
      expect(
        reader
          .read(framed(Uint8Array.from([66]), how))
          .at(-1)
          ?.at(-1),
      ).toBe(66);
    }
    const counted = readerFor('tcp-length');
    counted.read(Uint8Array.from([0xff, 0xff, 0xff, 0xff]));
    expect(counted.lost).toBeGreaterThan(0);
  });
});

describe('MIDI in words', () => {
  it('is the bytes that the standard says, and comes back', () => {
    expect([...readMidi('note 60 127')]).toEqual([0x90, 60, 127]);
    expect([...readMidi('control 7 64 channel 2')]).toEqual([0xb1, 7, 64]);
    expect([...readMidi('bend 0')]).toEqual([0xe0, 0, 64]);
    expect([...readMidi('f0 7e 7f f7')]).toEqual([0xf0, 0x7e, 0x7f, 0xf7]);
    for (const wrong of ['note', 'note 128', 'constructor 1', 'note 1 channel 17', '10 20', 'bend 2'])
      expect(() => readMidi(wrong), wrong).toThrow(MidiError);
    const name = fc.constantFrom('note', 'off', 'pressure', 'control');
    fc.assert(
      fc.property(name, fc.nat(127), fc.nat(127), fc.integer({ min: 1, max: 16 }), (of, a, b, channel) => {
        const words = `${of} ${a} ${b}${channel === 1 ? '' : ` channel ${channel}`}`;
        expect(midiWords(readMidi(words))).toBe(words);
      }),
    );
  });
});

describe('what a device says', () => {
  it('is matched with wildcards, quickly whatever the pattern', () => {
    expect(matches('lamp * on', 'LAMP 12 on')).toBe(true);
    expect(matches('/wall/cell/?', '/wall/cell/3')).toBe(true);
    expect(matches('lamp', 'lamp 1')).toBe(false);
    expect(matches('*', '')).toBe(true);
    // Would never come to an end if it went back again and again.
    expect(matches('*a'.repeat(900), 'a'.repeat(1999) + 'b')).toBe(false);
    fc.assert(fc.property(fc.string(), fc.string(), (a, b) => matches(`${a.replace(/[*?]/g, '')}*`, `${a.replace(/[*?]/g, '')}${b}`)));
  });

  it('sets triggers off, each time anew', () => {
    const { desk: first, device } = withDevice('tcp');
    const then = { kind: 'command', type: 'picture.take', args: {} };
    let desk = must(first, 'trigger.add', { when: createWhen('device-says', { deviceId: device, value: 'lamp * on' }), then });
    const said = (text: string) => must(desk, 'device.heard', { device, text });
    let { facts } = happened(null, desk, 0, 6);
    const seen: number[] = [];
    for (const [frame, text] of [
      [1, 'lamp 1 on'],
      [2, 'lamp 1 off'],
      [3, 'lamp 1 on'],
      [4, ''],
    ] as const) {
      if (text !== '') desk = said(text);
      const next = happened(facts, desk, frame, 6);
      ({ facts } = next);
      if (next.list.length > 0) seen.push(frame);
    }
    expect(seen).toEqual([1, 3]);
  });
});

describe('holes', () => {
  it('say what clocks, graphics and tally say at that frame; JSON around them stays', () => {
    let desk = must(sampleDesk(), 'clock.add', { name: 'Heat', kind: 'down', seconds: 90 });
    desk = must(desk, 'clock.start', { clock: desk.show.graphics.clocks.at(-1)?.id }, 0);
    desk = must(must(desk, 'picture.cut', { picture: 'a' }), 'picture.setNext', { picture: 'b' });
    const name = (id: string) => desk.show.sources.find((s) => s.id === id)?.name ?? '';
    const fill = (text: string, value = '') => fillHoles(text, desk, 250, value);
    expect(fill('{"on":[1,{"t":"{clock: heat}"}],"s":{seconds: Heat}}').text).toBe('{"on":[1,{"t":"1:20"}],"s":80}');
    expect(fill(`{tally: ${name('a')}} {tally: ${name('b')} | 2 | 1 | 0} {tally: ${name('c')}}`).text).toBe('air 1 off');
    expect(fill('{air}/{next}/{value}', 'x').text).toBe(`${name('a')}/${name('b')}/x`);
    const { text, faults } = fill('a {clock: Nowhere} {constructor} {clok: x}');
    expect(text).toBe('a   ');
    expect(faults.map((f) => f.at)).toEqual([2, 19, 33]);
  });
});

describe('commands of devices', () => {
  it('put what is to be sent into air, filled; refuse what cannot be said, and what is off', () => {
    const { desk, message, device } = withDevice('osc', { path: '/lamp/1', text: '{value} 0.5' });
    const sent = must(desk, 'device.send', { message, value: '3' }, 70);
    expect(sent.air.devices.sent).toMatchObject([{ number: 1, frame: 70, deviceId: device, path: '/lamp/1', text: '3 0.5' }]);
    expect(sent.show).toBe(desk.show);
    const wrong = attempt(must(desk, 'message.set', { message, path: 'lamp' }), 'device.send', { message });
    expect(wrong.ok ? '' : wrong.error.message).toContain('OSC address');
    const off = attempt(must(desk, 'device.switch', { device, on: false }), 'device.send', { message });
    expect(off.ok ? '' : off.error.code).toBe('device-off');
    let many = desk;
    for (let i = 0; i < 150; i += 1) many = must(many, 'device.say', { device, path: '/x', text: String(i) });
    expect(many.air.devices.sent.map((s) => s.number)).toEqual(Array.from({ length: 100 }, (_, i) => i + 51));
    // A message goes with its device; the step that sends it says so.
    expect(must(desk, 'device.remove', { device }).show.devices).toEqual([]);
  });

  it('that say where a device is are never taken from elsewhere or from a macro', () => {
    const { desk, device } = withDevice('tcp');
    const settings = firstSettings('tcp');
    const send = (sent: object) =>
      perform({ desk, history: EMPTY_HISTORY }, [{ type: 'device.set', args: { device, settings } }], context, { at: 0, ...sent });
    expect(send({}).ok).toBe(true);
    for (const from of [{ elsewhere: true }, { byMacro: true }]) {
      const done = send(from);
      expect(done.ok ? '' : done.error.code).toBe('only-here');
    }
    const bad = execute(desk, { type: 'device.set', args: { device, settings: { ...settings, host: 'x y' } } }, context);
    expect(bad.ok ? '' : bad.error.code).toBe('bad-address');
  });
});

describe('what was said', () => {
  it('is a line that comes back as the message, and is swept over one of its numbers', () => {
    const word = fc.stringMatching(/^[a-z0-9/._-]{1,12}$/);
    fc.assert(
      fc.property(fc.constantFrom('http', 'osc', 'tcp', 'midi'), word, fc.array(word, { maxLength: 4 }), (kind, path, words) => {
        const out = { method: 'PUT' as const, path: kind === 'http' || kind === 'osc' ? `/${path}` : '', text: words.join(' ') };
        expect(saidOf(kind, saidWords(kind, out))).toMatchObject(kind === 'http' ? out : { path: out.path, text: out.text });
      }),
    );
    const lamp = { name: 'Lamp 3', path: '/lamps/3', text: '{"on":1.5} {tally: Camera 2}' };
    const numbers = numbersIn(lamp);
    expect(numbers.map((n) => [n.in, n.words])).toEqual([
      ['path', '3'],
      ['text', '1.5'],
    ]);
    expect(sweptSaid(lamp, numbers[0]!, 1, 4, 1).map((m) => [m.name, m.path])).toEqual(
      [1, 2, 3, 4].map((n) => [`Lamp ${n}`, `/lamps/${n}`]),
    );
    expect(sweptSaid(lamp, numbers[1]!, 1, 0, 0.25).map((m) => m.text.slice(6, 10))).toEqual(['1.00', '0.75', '0.50', '0.25', '0.00']);
    expect(sweptSaid(lamp, numbers[0]!, 0, 1e9, 1)).toHaveLength(100);
  });
});
