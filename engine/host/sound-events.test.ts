import { describe, expect, it } from 'vitest';
import { type Desk } from '#core/desk/air';
import { FakeHost } from '#tests/support/fake-host';
import { sampleDesk } from '#tests/support/sample-show';
import { type SoundDesk } from '../sound/sound-desk';
import { followSound } from './sound-events';

/** Follows a desk of sound that only reports; what it makes of the reports is kept. */
function follow(desk: Desk) {
  const host = new FakeHost(desk);
  const made = { host, closed: false, beats: 0, report: null as Parameters<SoundDesk['listen']>[0] | null };
  const sound = { listen: (report: NonNullable<typeof made.report>) => void (made.report = report) };
  followSound(sound, host, { closed: () => made.closed, beat: () => (made.beats += 1) });
  return made;
}

const settle = () => new Promise((resolve) => setTimeout(resolve));

describe('what the sound desk reports', () => {
  it('holds a howling bus down for the show, once, with words for the crew', async () => {
    const made = follow(sampleDesk());
    made.report?.howl({ busId: 'programme', hz: 812, held: true });
    made.report?.howl({ busId: 'programme', hz: 812, held: true });
    // Nothing happens in the middle of whatever was going on.
    expect(made.host.commands).toEqual([]);
    await settle();
    expect(made.host.commands).toEqual([{ type: 'sound.hold', args: { bus: 'programme', db: 24, hz: 812 } }]);
    expect(made.host.notices).toEqual([expect.stringMatching(/^trouble: Programme howled at 812 Hz and was turned down by 24 dB/)]);
    expect(made.host.desk.air.sound.held.programme).toMatchObject({ db: 24 });
  });

  it('only tells of a steady tone where no loop is known: it must not take a show off air', async () => {
    const made = follow(sampleDesk());
    made.report?.howl({ busId: 'programme', hz: 1000, held: false });
    await settle();
    expect(made.host.commands).toEqual([]);
    expect(made.host.notices).toEqual([expect.stringMatching(/^caution: Programme pushes its limiter/)]);
  });

  it('knows of buses that are gone, and of a show that is closed', async () => {
    const made = follow(sampleDesk());
    made.report?.howl({ busId: 'gone', hz: 1000, held: true });
    made.report?.device('desk', 'it was unplugged');
    made.closed = true;
    await settle();
    expect(made.host).toMatchObject({ commands: [], notices: [] });
  });

  it('tells air of a device that goes and comes, and of nothing twice', async () => {
    const made = follow(sampleDesk());
    for (const cause of ['it was unplugged', 'it was unplugged', '']) {
      made.report?.device('desk', cause);
      await settle();
    }
    expect(made.host.commands.map((c) => c.args?.cause)).toEqual(['it was unplugged', '']);
    expect(made.host.desk.air.sound.lostDevices).toEqual({});
  });
});
