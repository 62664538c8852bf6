/** Commands for what is recorded: angles, settings, start and stop. */
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { requireSource } from '../show/edit';
import { Flag, Nested, Num, OneOf, Ref, Whole } from '../schema/fields';
import { type Desk } from '../desk/air';
import { createSource } from '../desk/create';
import { findPicture, findSource, picturesWithin, sourceBehind } from '../desk/pictures';
import { findOutput } from '../screens/outputs';
import { hasSound, isKind, traitsOf } from '../show/source-kinds';
import { DECKS } from './air';
import { AFTER_ROLL, Budget, JOINS, LAST_FRAME, MOST_ANGLES, PROGRAMME_SOUND } from './document';
import { angleOf } from './edit';
import { deckSource } from './transport';

class AngleArg {
  @Ref('angle', 'angle') angle!: string;
}
class AddArgs {
  @Ref('view', 'picture, or output') picture!: string;
  @Ref('source', 'source whose sound goes with it, or `programme`; null for none; without it, its own', {
    optional: true,
    nullable: true,
    or: [PROGRAMME_SOUND],
  })
  sound?: string | null;
}
class SoundArgs extends AngleArg {
  @Ref('source', 'source whose sound goes with it, or `programme`; null for none', { nullable: true, or: [PROGRAMME_SOUND] }) sound!:
    string | null;
}
class MoveArgs extends AngleArg {
  @Whole(0, MOST_ANGLES - 1, 'row, from 0') index!: number;
}
class SettingsArgs {
  @Whole(0, 2160, 'height of the recorded pictures; 0 as they come', { optional: true }) height?: number;
  @Num(0.2, 50, 'picture bitrate of each angle, megabits a second', { optional: true }) megabits?: number;
  @Nested(() => Budget, 'how much is kept before the oldest goes', { optional: true }) budget?: Budget;
  @Num(0.5, 600, 'first length of Grab, seconds', { optional: true }) grab1?: number;
  @Num(0.5, 600, 'second length of Grab, seconds', { optional: true }) grab2?: number;
  @Num(0.5, 600, 'third length of Grab, seconds', { optional: true }) grab3?: number;
  @Num(1, 600, 'how far look-back goes, seconds', { optional: true }) lookBackSeconds?: number;
  @Flag('slow motion blends neighbouring frames', { optional: true }) blend?: boolean;
  @Flag('sound at other than normal speed too', { optional: true }) soundAtSpeed?: boolean;
  @Whole(8, 4096, 'memory for decoded frames, megabytes', { optional: true }) cacheMegabytes?: number;
  @OneOf(JOINS, 'between clips played one after another', { optional: true }) join?: (typeof JOINS)[number];
  @Whole(1, 250, 'length of a dissolve between clips, frames', { optional: true }) joinFrames?: number;
  @OneOf(AFTER_ROLL, 'at the end of a play-out', { optional: true }) after?: (typeof AFTER_ROLL)[number];
  @Ref('transition', 'stored transition that a roll to air uses; null for the armed one', { optional: true, nullable: true })
  transitionId?: string | null;
  @Ref('source', 'source whose sound lies under a play-out; null for none', { optional: true, nullable: true }) musicId?: string | null;
  @Num(0, 30, 'fade of that music at the end, seconds', { optional: true }) musicFade?: number;
}
class ReportArgs {
  @Whole(0, LAST_FRAME, 'oldest frame that is kept; null when nothing is', { nullable: true }) from!: number | null;
  @Whole(0, LAST_FRAME, 'frame after the newest; null while it grows', { nullable: true }) to!: number | null;
}

function checkSound(desk: Desk, sound: string | null | undefined): void {
  if (sound !== null && sound !== undefined && sound !== PROGRAMME_SOUND) requireSource(desk, sound, 'sound');
}

/** @throws CommandError when recording it makes no sense: a picture that stands still, or one that shows what the angles have recorded. */
function checkAngle({ show }: Desk, id: string): void {
  if (findOutput(show, id)) return;
  const picture = findPicture(show, id);
  if (!picture) throw new CommandError('unknown-picture', `There is no picture or output "${id}" in this show.`, 'picture');
  const inside = [...picturesWithin(show, id, true)].flatMap((part) => findSource(show, part) ?? []);
  const deck = inside.find((s) => isKind(s, 'deck'));
  if (deck)
    throw new CommandError(
      'is-deck',
      deck.id === id
        ? 'A deck cannot be recorded as an angle: it plays what the angles have recorded.'
        : `${picture.name} cannot be recorded as an angle: it shows ${deck.name}, which plays what the angles have recorded.`,
      'picture',
    );
  if (picture.kind === 'source' && !traitsOf(picture.source).moves)
    throw new CommandError('no-motion', 'A still picture needs no replay. Choose a camera, a screen or a file.', 'picture');
}

/** The sound that goes with a picture when none is named: that of the one source in it, or the programme. */
function soundOf({ show }: Desk, id: string): string {
  const source = findSource(show, sourceBehind(show, id));
  return source && (hasSound(source) || source.id === id) ? source.id : PROGRAMME_SOUND;
}

/** Gives the show its two decks as sources, when it has none yet. */
function ensureDecks(desk: Desk, newId: () => string): void {
  for (const deck of DECKS) {
    if (!deckSource(desk, deck)) desk.show.sources.push(createSource(desk.show, newId(), `Deck ${deck}`, { kind: 'deck', deck }));
  }
}

export const angleCommands = [
  defineCommand({
    type: 'replay.addAngle',
    title: 'Record a picture as an angle',
    about:
      'Adds a picture of any kind, or an output such as the programme, to those recorded on the timeline; with its own sound, or the programme’s, unless another is named. The first angle adds Deck 1 and Deck 2 to the sources.',
    args: AddArgs,
    run: (desk, { picture, sound }, { newId }) => {
      const { angles } = desk.show.replay;
      checkAngle(desk, picture);
      if (angles.some((a) => a.pictureId === picture)) throw new CommandError('twice', 'This picture is an angle already.', 'picture');
      if (angles.length >= MOST_ANGLES)
        throw new CommandError('too-many', `At most ${MOST_ANGLES} angles are recorded. Take one out first.`);
      checkSound(desk, sound);
      angles.push({ pictureId: picture, soundId: sound === undefined ? soundOf(desk, picture) : sound });
      ensureDecks(desk, newId);
      for (const n of DECKS) desk.air.replay.decks[n].angleId ??= angles[Math.min(n, angles.length) - 1]?.pictureId ?? picture;
    },
  }),
  defineCommand({
    type: 'replay.removeAngle',
    title: 'Record an angle no longer',
    about: 'Takes a picture out of the angles. What it has recorded stays, as long as the budget and clips keep it.',
    args: AngleArg,
    run: (desk, { angle }) => {
      angleOf(desk, angle);
      desk.show.replay.angles = desk.show.replay.angles.filter((a) => a.pictureId !== angle);
      for (const n of DECKS) {
        const deck = desk.air.replay.decks[n];
        if (deck.angleId === angle && deck.motion.kind === 'live') deck.angleId = desk.show.replay.angles[0]?.pictureId ?? null;
      }
    },
  }),
  defineCommand({
    type: 'replay.setAngleSound',
    title: 'Sound of an angle',
    about: 'Chooses the sound that is recorded with an angle.',
    args: SoundArgs,
    run: (desk, { angle, sound }) => {
      checkSound(desk, sound);
      angleOf(desk, angle).soundId = sound;
    },
  }),
  defineCommand({
    type: 'replay.moveAngle',
    title: 'Move an angle to another row',
    about: 'Changes the order of the rows, and with it the angle keys.',
    args: MoveArgs,
    run: (desk, { angle, index }) => {
      const { angles } = desk.show.replay;
      const [moved] = angles.splice(angles.indexOf(angleOf(desk, angle)), 1);
      if (moved) angles.splice(Math.min(index, angles.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'replay.set',
    title: 'Replay settings',
    about: 'Recorded size, quality and budget; lengths of Grab and look-back; how clips are joined and rolled.',
    args: SettingsArgs,
    mergeKey: (args) => `replay:${Object.keys(args).join()}`,
    run: (desk, args) => {
      const { show } = desk;
      if (args.transitionId && !show.transitions.some((t) => t.id === args.transitionId))
        throw new CommandError('unknown-transition', 'This transition is no longer kept by name.', 'transitionId');
      if (args.musicId) {
        const { settings, name } = requireSource(desk, args.musicId, 'musicId');
        if (settings.kind !== 'media' || !settings.hasSound)
          throw new CommandError('no-sound', `${name} is not a file with sound.`, 'musicId');
      }
      Object.assign(show.replay.settings, args);
    },
  }),
  defineCommand({
    type: 'replay.start',
    title: 'Record the angles',
    about: 'Starts recording all angles on the timeline of show time.',
    args: NoArgs,
    run: ({ show, air }, _, { frame, newId }) => {
      if (air.replay.recording) return;
      if (show.replay.angles.length === 0)
        throw new CommandError('no-angles', 'No angle is chosen. Choose two to eight sources in Replay first.');
      air.replay.recording = { id: newId(), startFrame: frame };
      air.replay.kept = { from: air.replay.kept?.from ?? frame, to: null };
    },
  }),
  defineCommand({
    type: 'replay.stop',
    hold: () => true,
    title: 'Stop recording the angles',
    about: 'Ends the recording of all angles. What is recorded stays and plays.',
    args: NoArgs,
    run: ({ air }, _, { frame }) => {
      if (!air.replay.recording) return;
      air.replay.recording = null;
      if (air.replay.kept) air.replay.kept.to = frame;
    },
  }),
  defineCommand({
    type: 'replay.report',
    fromEngine: true,
    title: 'Report what is kept',
    about: 'Sent by the engine when the oldest material has gone, and when a recording has ended.',
    args: ReportArgs,
    run: ({ air }, { from, to }) => {
      const ends = air.replay.recording ? null : to;
      if (from === null) air.replay.kept = null;
      else if (ends === null || ends > from) air.replay.kept = { from, to: ends };
    },
  }),
];
