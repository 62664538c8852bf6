/** The log of a day. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { createDevice } from '../devices/create';
import { ActLog, LINE_KINDS, type LogLine } from './act-log';
import { logActs } from './log-acts';
import { actOfLine } from './to-acts';

describe('the log', () => {
  it('keeps the newest lines as they were told, whatever was told before', () => {
    const line = fc.record({
      frame: fc.nat(),
      kind: fc.constantFrom(...LINE_KINDS),
      of: fc.constantFrom('picture.cut', 'lane.show', 'constructor', '__proto__'),
      text: fc.string(),
    });
    fc.assert(
      fc.property(fc.array(line, { maxLength: 60 }), fc.integer({ min: 1, max: 20 }), (lines, most) => {
        const log = new ActLog((tell) => tell(), most);
        for (const { frame, kind, of, text } of lines) log.add(frame, kind, of, text);
        const kept: LogLine[] = [];
        for (let n = log.first; n < log.end; n += 1) kept.push(log.line(n)!);
        expect(kept.map(({ frame, kind, of, text }) => ({ frame, kind, of, text }))).toEqual(lines.slice(-most));
        expect(log.line(log.end)).toBeNull();
        expect(log.line(log.first - 1)).toBeNull();
        for (const kind of LINE_KINDS) expect(log.numbersOf([kind]).length).toBe(kept.filter((l) => l.kind === kind).length);
      }),
    );
  });

  it('makes one line of what goes on and on, says what became of it, and tells once of a burst', () => {
    const tells: (() => void)[] = [];
    const log = new ActLog((tell) => tells.push(tell), 10);
    let told = 0;
    log.subscribe(() => (told += 1));
    for (let i = 0; i < 5; i += 1) log.add(i, 'here', 'sound.setFader', String(i), 'fader');
    log.add(6, 'here', 'picture.take', '{}');
    log.add(7, 'here', 'sound.setFader', '9', 'fader');
    expect(log.end).toBe(3);
    expect(log.line(0)).toMatchObject({ frame: 4, text: '4' });
    const sent = log.add(8, 'sent', 'lamps', 'lamp 1 air');
    log.resolve(sent, 'ok', false);
    expect(log.line(sent)).toMatchObject({ result: 'ok', failed: false });
    for (const tell of tells) tell();
    expect(told).toBe(1);
  });
});

describe('what was done', () => {
  it('stands in it as what it came to, by whose hand; one movement of a fader is one line', () => {
    const log = new ActLog((tell) => tell(), 100);
    const desk = must(sampleDesk(), 'sound.mute', { channel: 'a' });
    logActs(log, [{ type: 'sound.mute', args: { channel: 'a' } }], desk, 5, { at: 0 });
    for (const db of [-1, -2, -3]) logActs(log, [{ type: 'sound.setFader', args: { channel: 'a', db } }], desk, 6, { at: 1, gesture: 'g' });
    logActs(log, [{ type: 'clock.day', args: { millis: 0 } }, { type: 'picture.take' }], desk, 7, { at: 2, byMacro: true });
    const lines = [0, 1, 2, 3].map((n) => log.line(n));
    expect(lines.map((l) => l && [l.kind, l.of, l.text])).toEqual([
      ['here', 'sound.mute', '{"channel":"a","on":true}'],
      ['here', 'sound.setFader', '{"channel":"a","db":-3}'],
      ['macro', 'picture.take', '{}'],
      null,
    ]);
  });
});

describe('a line', () => {
  const line = (change: Partial<LogLine>): LogLine => ({
    number: 0,
    frame: 0,
    kind: 'here',
    of: '',
    text: '',
    result: '',
    failed: false,
    who: '',
    ...change,
  });
  it('is a step that does the same again, or says why it cannot be one', () => {
    const devices = [createDevice('wall', 'Wall', { kind: 'osc', host: 'x', port: 1, carrier: 'udp', listens: null })];
    const of = (change: Partial<LogLine>) => actOfLine({ devices }, line(change));
    expect(of({ of: 'picture.cut', text: '{"picture":"a"}' })).toEqual({
      act: { kind: 'command', type: 'picture.cut', args: { picture: 'a' } },
    });
    expect(of({ kind: 'sent', of: 'wall', text: '/wall/layout 4' })).toMatchObject({
      act: { type: 'device.say', args: { device: 'wall', path: '/wall/layout', text: '4' } },
    });
    for (const wrong of [
      { kind: 'heard' },
      { kind: 'sent', of: 'gone' },
      { of: 'device.add' },
      { of: 'nothing' },
      { of: 'picture.cut', text: '{"pict' },
    ] as const)
      expect(of(wrong)).toHaveProperty('why');
  });
});
