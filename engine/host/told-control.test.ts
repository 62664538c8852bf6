/** What the engine tells triggers: levels, at once over and under only when they stay so; outputs that fail. */
import { beforeEach, describe, expect, it } from 'vitest';
import { createWhen } from '#core/automation/create';
import { isSo } from '#core/automation/events';
import { type MeterReading, restingMeter } from '#core/sound/meter';
import { FakeHost } from '#tests/support/fake-host';
import { FakeWorker } from '#tests/support/fake-worker';
import { ToldControl } from './told-control';

const THEN = { kind: 'command', type: 'picture.take', args: {} };

describe('what triggers are told', () => {
  let host: FakeHost;
  let control: ToldControl;
  let readings: Map<string, [MeterReading, MeterReading]>;
  let now: number;
  const over = createWhen('level-over', { channelId: 'a', db: -20 });
  const level = (db: number) => readings.set('a', [{ ...restingMeter(), level: db }, restingMeter()]);
  const at = (ms: number) => {
    now = ms;
    control.tick(host.desk);
    return isSo(host.desk, over, 0);
  };

  beforeEach(() => {
    FakeWorker.started = [];
    host = new FakeHost();
    readings = new Map();
    now = 0;
    control = new ToldControl(host, { readings, now: () => now });
    host.follower = control;
    control.follow(host.desk);
  });

  it('is a level over at once, and under only after it has stayed so', () => {
    expect(at(0)).toBeNull();
    host.run('trigger.add', { when: over, then: THEN });
    expect(at(1)).toBeNull();
    level(-40);
    expect(at(2)).toBe(false);
    level(-10);
    expect(at(10)).toBe(true);
    expect(isSo(host.desk, createWhen('level-under', { channelId: 'a', db: -20 }), 0)).toBe(false);
    // A pause between two words.
    level(-50);
    expect([at(20), at(900)]).toEqual([true, true]);
    level(-10);
    expect(at(1000)).toBe(true);
    level(-50);
    expect([at(1100), at(2500), at(2700)]).toEqual([true, true, false]);
    // Nothing looks at it any more.
    host.run('trigger.armAll', { armed: false });
    control.tick(host.desk);
    expect(host.desk.air.automation.told).toEqual({});
  });

  it('is an output that fails, and that is well again', () => {
    const fails = createWhen('stream-fails');
    host.run('trigger.add', { when: fails, then: THEN });
    host.run('trigger.add', { when: createWhen('recording-fails'), then: THEN });
    const stream = {
      id: 's',
      state: 'live',
      seconds: 0,
      bitrate: 0,
      queued: 0,
      queuedSeconds: 0,
      dropped: 0,
      lostSeconds: 0,
      reconnects: 0,
      trouble: '',
    } as const;
    const { encoder } = host.state();
    const told = (trouble: string) => {
      host.set({ encoder: { ...encoder, stream: { ...stream, trouble } } });
      control.tick(host.desk);
      return isSo(host.desk, fails, 0);
    };
    expect([told(''), told('no answer'), told('')]).toEqual([false, true, false]);
    host.set({ recordingFailed: true });
    control.tick(host.desk);
    expect(isSo(host.desk, createWhen('recording-fails'), 0)).toBe(true);
  });
});
