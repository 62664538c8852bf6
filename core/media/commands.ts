/** Commands for media players. */
import { CommandError, defineCommand } from '../commands/command';
import { requireSource } from '../show/edit';
import { Flag, Num, OneOf, Ref } from '../schema/fields';
import { type Desk } from '../desk/air';
import { AT_END, type AtEnd, type MediaSettings, type Source } from '../show/source';
import { cuedPlayer, mediaSpan, playerState } from './player';

class PlayerArg {
  @Ref('source', 'media source') source!: string;
}
class SeekArgs extends PlayerArg {
  @Num(0, 864000, 'seconds from the start of the file') position!: number;
}
class PlaybackArgs extends PlayerArg {
  @Num(0, 864000, 'in point, seconds', { optional: true }) in?: number;
  @Num(0, 864000, 'out point, seconds; null for the end', { optional: true, nullable: true }) out?: number | null;
  @Flag('play from the in point when taken', { optional: true }) startOnTake?: boolean;
  @OneOf(AT_END, 'at the out point', { optional: true }) atEnd?: AtEnd;
}

function requireMedia(desk: Desk, id: string): Source & { settings: MediaSettings } {
  const source = requireSource(desk, id);
  if (source.settings.kind !== 'media') {
    throw new CommandError('not-media', `${source.name} is not a media file: it cannot be played or paused.`, 'source');
  }
  return source as Source & { settings: MediaSettings };
}

/** Plays from where it stands; from the in point if it stands at its end. */
function play(desk: Desk, id: string, frame: number): void {
  const { settings } = requireMedia(desk, id);
  const now = playerState(desk.air, id, settings, frame, desk.show.rate);
  const position = now.ended ? mediaSpan(settings).from : now.position;
  desk.air.players[id] = { playing: true, start: frame, position };
}

function pause(desk: Desk, id: string, frame: number): void {
  const { settings } = requireMedia(desk, id);
  const { position } = playerState(desk.air, id, settings, frame, desk.show.rate);
  desk.air.players[id] = { playing: false, start: frame, position };
}

export const mediaCommands = [
  defineCommand({
    type: 'media.play',
    title: 'Play',
    says: 'Play {source}',
    about: 'Plays a media source from where it stands; from its in point when it stands at its end.',
    args: PlayerArg,
    run: (desk, { source }, { frame }) => play(desk, source, frame),
  }),
  defineCommand({
    type: 'media.pause',
    title: 'Pause',
    says: 'Pause {source}',
    about: 'Holds a media source where it is.',
    args: PlayerArg,
    run: (desk, { source }, { frame }) => pause(desk, source, frame),
  }),
  defineCommand({
    type: 'media.toggle',
    title: 'Play or pause',
    about: 'Plays a media source that stands, pauses one that plays.',
    args: PlayerArg,
    run: (desk, { source }, { frame }) => {
      const { settings } = requireMedia(desk, source);
      const { playing } = playerState(desk.air, source, settings, frame, desk.show.rate);
      (playing ? pause : play)(desk, source, frame);
    },
  }),
  defineCommand({
    type: 'media.seek',
    title: 'Go to a place',
    about: 'Moves a media source to a place between its in and out points; it goes on playing if it played.',
    args: SeekArgs,
    run: (desk, { source, position }, { frame }) => {
      const { settings } = requireMedia(desk, source);
      const { from, to } = mediaSpan(settings);
      const { playing } = playerState(desk.air, source, settings, frame, desk.show.rate);
      desk.air.players[source] = { playing, start: frame, position: Math.min(Math.max(position, from), to) };
    },
  }),
  defineCommand({
    type: 'media.cue',
    title: 'Back to the in point',
    says: 'Cue {source}',
    about: 'Stands a media source at its in point.',
    args: PlayerArg,
    run: (desk, { source }) => {
      desk.air.players[source] = cuedPlayer(requireMedia(desk, source).settings);
    },
  }),
  defineCommand({
    type: 'media.setPlayback',
    title: 'Set up playing',
    about: 'In and out points, whether it starts when taken, and what happens at the end.',
    args: PlaybackArgs,
    mergeKey: ({ source }) => `playback:${source}`,
    run: (desk, { source, ...change }, { frame }) => {
      const { settings } = requireMedia(desk, source);
      const now = playerState(desk.air, source, settings, frame, desk.show.rate);
      const next = { ...settings, ...change };
      const end = next.out ?? next.duration;
      if (next.in >= end)
        throw new CommandError('empty-span', 'The in point must come before the out point.', change.in === undefined ? 'out' : 'in');
      if (end > next.duration + 0.001) {
        throw new CommandError('past-end', `The file ends at ${next.duration.toFixed(2)} s.`, 'out');
      }
      Object.assign(settings, change);
      const { from, to } = mediaSpan(settings);
      desk.air.players[source] = { playing: now.playing, start: frame, position: Math.min(Math.max(now.position, from), to) };
    },
  }),
];
