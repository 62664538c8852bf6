import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { FakeHost } from '#tests/support/fake-host';
import { type AnyDriver, type Drivers, type EngineFormat } from '../capture/driver';
import { SourceDrivers } from './source-drivers';

/** Drivers that only write down what is asked of them. */
function setup() {
  const log: string[] = [];
  const driver: AnyDriver = (source, _air, link) => {
    log.push(`start ${source.id}`);
    link.health('live');
    return {
      stop: () => log.push(`stop ${source.id}`),
      press: () => log.push(`press ${source.id}`),
      ...(source.settings.kind === 'media' ? { update: () => log.push(`update ${source.id}`) } : {}),
    };
  };
  const format: EngineFormat = {
    clock: new SharedArrayBuffer(8),
    rate: { num: 25, den: 1 },
    frameStep: 1,
    working: { width: 64, height: 36 },
  };
  const host = new FakeHost();
  const all: Drivers = {
    camera: driver,
    screen: driver,
    media: driver,
    still: driver,
    test: driver,
    simulated: driver,
    deck: driver,
    guest: driver,
    encoder: driver,
  };
  const drivers = new SourceDrivers(all, format, { disconnect: () => undefined } as never, host);
  return { drivers, log, host };
}

describe('the drivers of a show’s sources', () => {
  it('are started once each; a colour needs none and is there at once', () => {
    const { drivers, log, host } = setup();
    const desk = must(sampleDesk(), 'source.add', { name: 'Blue', settings: { kind: 'colour', colour: '#123456' } });
    drivers.follow(desk);
    const after = log.length;
    drivers.follow(desk);
    expect(log.slice(0, 5)).toEqual(['start a', 'start b', 'start c', 'start clip', 'start bug']);
    expect(log.slice(after).filter((l) => l.startsWith('start'))).toEqual([]);
    expect(host.state().health[desk.show.sources.at(-1)?.id ?? '']).toEqual({ state: 'live', cause: '' });
  });

  it('are handed the press that they wait for, and no other gets it', () => {
    const { drivers, log } = setup();
    drivers.follow(sampleDesk());
    drivers.press('b');
    drivers.press('gone');
    expect(log.filter((l) => l.startsWith('press'))).toEqual(['press b']);
  });

  it('are left alone by names, order and numbers, told of the player, and started anew for another device', () => {
    const { drivers, log } = setup();
    let desk = sampleDesk();
    drivers.follow(desk);
    drivers.follow(desk);
    log.length = 0;
    desk = must(must(must(desk, 'source.edit', { source: 'a', name: 'Other' }), 'source.move', { source: 'c', index: 0 }), 'source.pin', {
      source: 'b',
      number: 9,
    });
    drivers.follow(desk);
    expect(log).toEqual([]);
    desk = must(desk, 'media.play', { source: 'clip' });
    drivers.follow(desk);
    expect(log).toEqual(['update clip']);
    desk = must(desk, 'source.setSettings', { source: 'a', settings: { kind: 'simulated', camera: 'mast' } });
    drivers.follow(desk);
    expect(log).toEqual(['update clip', 'stop a', 'start a']);
  });

  it('are stopped, and the mixer told, when a source goes', () => {
    const { drivers, log, host } = setup();
    const desk = sampleDesk();
    drivers.follow(desk);
    const less = must(desk, 'source.remove', { source: 'c' });
    drivers.follow(less);
    expect(log.at(-1)).toBe('stop c');
    expect(host.mixed).toContain('source-gone c');
    drivers.close();
    expect(log.filter((l) => l.startsWith('stop')).sort()).toEqual(['stop a', 'stop b', 'stop bug', 'stop c', 'stop clip']);
  });
});
