/** Commands for the sound of sources and of the programme. */
import { defineCommand } from '../commands/command';
import { requireSource } from '../picture/commands';
import { Flag, Id, Num } from '../schema/fields';
import { FADER_FLOOR_DB, FADER_TOP_DB } from '../show/source';

class FaderArgs {
  @Id('source') source!: string;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'dB; the lowest is silence') db!: number;
}
class SwitchArgs {
  @Id('source') source!: string;
  @Flag('without it, the other way', { optional: true }) on?: boolean;
}
class ProgrammeArgs {
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'programme fader, dB', { optional: true }) faderDb?: number;
  @Num(-20, 0, 'limiter ceiling, dBFS', { optional: true }) ceilingDb?: number;
}

export const soundCommands = [
  defineCommand({
    type: 'sound.setFader',
    title: 'Set a fader',
    about: 'Level of a source in the programme.',
    args: FaderArgs,
    mergeKey: ({ source }) => `fader:${source}`,
    run: (desk, { source, db }) => {
      requireSource(desk, source).sound.faderDb = db;
    },
  }),
  defineCommand({
    type: 'sound.mute',
    title: 'Mute',
    about: 'Silences a source, or opens it again.',
    args: SwitchArgs,
    run: (desk, { source, on }) => {
      const { sound } = requireSource(desk, source);
      sound.muted = on ?? !sound.muted;
    },
  }),
  defineCommand({
    type: 'sound.follow',
    title: 'Sound follows picture',
    about: 'Whether a source is heard only while its picture is on air.',
    args: SwitchArgs,
    run: (desk, { source, on }) => {
      const { sound } = requireSource(desk, source);
      sound.follows = on ?? !sound.follows;
    },
  }),
  defineCommand({
    type: 'sound.setProgramme',
    title: 'Set the programme bus',
    about: 'Fader and limiter ceiling of the programme.',
    args: ProgrammeArgs,
    mergeKey: () => 'programme',
    run: (desk, change) => {
      Object.assign(desk.show.programme, change);
    },
  }),
];
