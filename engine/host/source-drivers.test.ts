import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { type Drivers, type EngineFormat } from '../capture/driver';
import { type ToMixer } from '../picture/messages';
import { SourceDrivers } from './source-drivers';

/** Drivers that only write down what is asked of them. */
function setup() {
  const log: string[] = [];
  const toMixer: string[] = [];
  const driver: Drivers[keyof Drivers] = (source, _air, link) => {
    log.push(`start ${source.id}`);
    link.health('live');
    return {
      stop: () => log.push(`stop ${source.id}`),
      ...(source.settings.kind === 'media' ? { update: () => log.push(`update ${source.id}`) } : {}),
    };
  };
  const format: EngineFormat = {
    clock: new SharedArrayBuffer(8),
    rate: { num: 25, den: 1 },
    frameStep: 1,
    working: { width: 64, height: 36 },
  };
  const health: string[] = [];
  const drivers = new SourceDrivers(
    { simulated: driver, media: driver },
    format,
    (message: ToMixer) => toMixer.push(`${message.type} ${'id' in message ? message.id : ''}`),
    { disconnect: () => undefined } as never,
    (id, { state, cause }) => health.push(`${id} ${state} ${cause}`.trim()),
  );
  return { drivers, log, toMixer, health };
}

describe('the drivers of a show’s sources', () => {
  it('are started once each, and those without a driver say so', () => {
    const { drivers, log, health } = setup();
    const { show, air } = sampleDesk();
    drivers.reconcile(show, air);
    const after = log.length;
    drivers.reconcile(show, air);
    expect(log.slice(0, 4)).toEqual(['start a', 'start b', 'start c', 'start clip']);
    expect(log.slice(after).filter((l) => l.startsWith('start'))).toEqual([]);
    expect(health).toContain('bug lost this kind of source cannot be used here');
  });

  it('are left alone by names, order and numbers, told of the player, and started anew for another device', () => {
    const { drivers, log } = setup();
    let desk = sampleDesk();
    drivers.reconcile(desk.show, desk.air);
    drivers.reconcile(desk.show, desk.air);
    log.length = 0;
    desk = must(must(must(desk, 'source.edit', { source: 'a', name: 'Other' }), 'source.move', { source: 'c', index: 0 }), 'source.pin', {
      source: 'b',
      number: 9,
    });
    drivers.reconcile(desk.show, desk.air);
    expect(log).toEqual([]);
    desk = must(desk, 'media.play', { source: 'clip' });
    drivers.reconcile(desk.show, desk.air);
    expect(log).toEqual(['update clip']);
    desk = must(desk, 'source.setSettings', { source: 'a', settings: { kind: 'simulated', camera: 'mast' } });
    drivers.reconcile(desk.show, desk.air);
    expect(log).toEqual(['update clip', 'stop a', 'start a']);
  });

  it('are stopped, and the mixer told, when a source goes', () => {
    const { drivers, log, toMixer } = setup();
    const desk = sampleDesk();
    drivers.reconcile(desk.show, desk.air);
    const less = must(desk, 'source.remove', { source: 'c' });
    drivers.reconcile(less.show, less.air);
    expect(log.at(-1)).toBe('stop c');
    expect(toMixer).toContain('source-gone c');
    drivers.stopAll();
    expect(log.filter((l) => l.startsWith('stop')).sort()).toEqual(['stop a', 'stop b', 'stop c', 'stop clip']);
  });
});
