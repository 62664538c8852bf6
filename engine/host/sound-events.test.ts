import { describe, expect, it } from 'vitest';
import { type Command } from '#core/commands/command';
import { type Desk } from '#core/desk/air';
import { must, sampleDesk } from '#tests/support/sample-show';
import { type SoundDesk } from '../sound/sound-desk';
import { followSound } from './sound-events';

/** Follows a desk of sound that only reports; what it makes of the reports is kept. */
function follow(desk: Desk) {
  const made: { desk: Desk | null; commands: Command[]; notices: string[]; report: Parameters<SoundDesk['listen']>[0] | null } = {
    desk,
    commands: [],
    notices: [],
    report: null,
  };
  const sound = { listen: (report: NonNullable<typeof made.report>) => (made.report = report) } as unknown as SoundDesk;
  followSound(sound, {
    desk: () => made.desk,
    command: (command) => {
      made.commands.push(command);
      if (made.desk) made.desk = must(made.desk, command.type, command.args);
    },
    notify: (tone, text) => made.notices.push(`${tone}: ${text}`),
  });
  return made;
}

const settle = () => new Promise((resolve) => setTimeout(resolve));

describe('what the sound desk reports', () => {
  it('holds a howling bus down for the show, once, with words for the crew', async () => {
    const made = follow(sampleDesk());
    made.report?.howl({ busId: 'programme', hz: 812, held: true });
    made.report?.howl({ busId: 'programme', hz: 812, held: true });
    // Nothing happens in the middle of whatever was going on.
    expect(made.commands).toEqual([]);
    await settle();
    expect(made.commands).toEqual([{ type: 'sound.hold', args: { bus: 'programme', db: 24, hz: 812 } }]);
    expect(made.notices).toEqual([expect.stringMatching(/^trouble: Programme howled at 812 Hz and was turned down by 24 dB/)]);
    expect(made.desk?.air.sound.held.programme).toMatchObject({ db: 24 });
  });

  it('only tells of a steady tone where no loop is known: it must not take a show off air', async () => {
    const made = follow(sampleDesk());
    made.report?.howl({ busId: 'programme', hz: 1000, held: false });
    await settle();
    expect(made.commands).toEqual([]);
    expect(made.notices).toEqual([expect.stringMatching(/^caution: Programme pushes its limiter/)]);
  });

  it('knows of buses that are gone, and of a show that is closed', async () => {
    const made = follow(sampleDesk());
    made.report?.howl({ busId: 'gone', hz: 1000, held: true });
    made.report?.device('desk', 'it was unplugged');
    made.desk = null;
    await settle();
    expect(made).toMatchObject({ commands: [], notices: [] });
  });

  it('tells air of a device that goes and comes, and of nothing twice', async () => {
    const made = follow(sampleDesk());
    for (const cause of ['it was unplugged', 'it was unplugged', '']) {
      made.report?.device('desk', cause);
      await settle();
    }
    expect(made.commands.map((c) => c.args?.cause)).toEqual(['it was unplugged', '']);
    expect(made.desk?.air.sound.lostDevices).toEqual({});
  });
});
