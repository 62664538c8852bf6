/** Macros of a host: begun with the press, a few frames ahead of theirs, refusals said. */
import { beforeEach, describe, expect, it } from 'vitest';
import { FakeHost } from '#tests/support/fake-host';
import { FakeWorker } from '#tests/support/fake-worker';
import { AHEAD_FRAMES, AutomationControl } from './automation-control';

const cut = (picture: string) => ({ act: { kind: 'command', type: 'picture.cut', args: { picture } } });
const wait = (amount: number) => ({ act: { kind: 'wait', amount, unit: 'frames' } });

describe('macros of a host', () => {
  let host: FakeHost;
  let control: AutomationControl;
  let deferred: (() => void)[];
  const settle = () => {
    for (const callback of deferred.splice(0)) callback();
  };
  const begin = (steps: object[], change: Record<string, unknown> = {}) => {
    host.run('macro.add', { name: 'Opening', steps });
    const macro = host.desk.show.automation.macros.at(-1)?.id;
    if (Object.keys(change).length > 0) host.run('macro.set', { macro, ...change });
    host.run('macro.run', { macro });
    settle();
  };

  beforeEach(() => {
    FakeWorker.started = [];
    host = new FakeHost();
    deferred = [];
    control = new AutomationControl(host, (callback) => deferred.push(callback));
    host.follower = control;
    host.frame = 100;
  });

  it('begin as soon as whoever pressed is done, and send a step a few frames before its own', () => {
    begin([cut('b'), wait(10), cut('a')]);
    expect(host.desk.air.onAirId).toBe('b');
    for (let frame = 101; frame < 112 - AHEAD_FRAMES; frame += 1) {
      host.frame = frame;
      control.tick(host.desk, frame);
    }
    expect(host.desk.air.onAirId).toBe('b');
    host.frame = 112 - AHEAD_FRAMES;
    control.tick(host.desk, host.frame);
    expect([host.desk.air.onAirId, host.desk.air.automation.runs]).toEqual(['a', {}]);
  });

  it('say which step was refused, and go on or stop as the macro says', () => {
    begin([cut('b'), cut('gone'), cut('a')]);
    expect([host.desk.air.onAirId, host.notices.length]).toEqual(['b', 1]);
    expect(host.notices[0]).toMatch(/^caution: Macro Opening, step 2: /);
    begin([cut('b'), cut('gone'), cut('a')], { onFailure: 'go-on' });
    expect(host.desk.air.onAirId).toBe('a');
  });

  it('do nothing more once the show has ended', () => {
    begin([cut('b'), wait(20), cut('a')]);
    control.close();
    control.tick(host.desk, 500);
    expect(host.desk.air.onAirId).toBe('b');
  });
});
