/** Commands that make and edit clips. */
import { CommandError, defineCommand } from '../commands/command';
import { Colour, ListOf, Num, OneOf, Ref, Refs, Text, Whole } from '../schema/fields';
import { type Desk } from '../desk/air';
import { TILE_COLOURS } from '../desk/create';
import { formatTimecode } from '../time/timecode';
import { secondsToFrames } from '../time/rate';
import { type DeckNumber } from './air';
import { DeckArg } from './deck-arg';
import { type Clip, LAST_FRAME, MOST_ANGLES } from './document';
import { append, checkRoom, checkSpan, clipOf, clipsByIds, nextNumber, reelOf, stored } from './edit';
import { shownFrame } from './transport';

/** Clips that one command may name. */
const MOST_NAMED = 20_000;

class AddArgs extends DeckArg {
  @Text(120, 'name; without it, its timecode', { optional: true, min: 1 }) name?: string;
}
class GrabArgs extends DeckArg {
  @Num(0.1, 600, 'seconds', { optional: true }) seconds?: number;
  @Whole(1, 3, 'one of the three lengths of the settings', { optional: true }) length?: number;
}
class ClipsArg {
  @Refs('clip', MOST_NAMED, 'clips') clips!: string[];
}
class ClipArg {
  @Ref('clip', 'clip') clip!: string;
}
class EditArgs extends ClipArg {
  @Text(120, 'name', { optional: true, min: 1 }) name?: string;
  @Whole(0, LAST_FRAME, 'first frame', { optional: true }) in?: number;
  @Whole(1, LAST_FRAME, 'frame after the last', { optional: true }) out?: number;
  @Text(2000, 'note', { optional: true }) note?: string;
}
class SetArgs extends ClipsArg {
  @Whole(1, 200, 'speed, per cent', { optional: true }) speed?: number;
  @Colour('colour in lists', { optional: true }) colour?: string;
  @Whole(0, 5, 'rating, 0 for none', { optional: true }) rating?: number;
  @Text(200, 'tags, separated by commas', { optional: true }) tags?: string;
  @Refs('angle', MOST_ANGLES, 'angles, shown one after another', { optional: true }) angleIds?: string[];
}
class NudgeArgs extends ClipArg {
  @OneOf(['in', 'out'], 'edge') edge!: 'in' | 'out';
  @Whole(-10_000, 10_000, 'frames later, earlier when negative') frames!: number;
}
class EdgeArgs extends ClipArg {
  @OneOf(['in', 'out'], 'edge') edge!: 'in' | 'out';
  @Whole(1, 2, 'deck whose frame it becomes') deck!: DeckNumber;
}
class AngleArgs extends ClipsArg {
  @Ref('angle', 'angle') angle!: string;
}
class SplitArgs extends ClipArg {
  @Whole(1, LAST_FRAME, 'first frame of the second part; without it, where the deck stands', { optional: true }) at?: number;
  @Whole(1, 2, 'deck', { optional: true }) deck?: DeckNumber;
}
class MoveArgs extends ClipsArg {
  @Ref('clip', 'clip they go before; null for the end', { nullable: true }) before!: string | null;
}
class ShiftArgs extends ClipsArg {
  @Whole(-10_000, 10_000, 'places down, up when negative') by!: number;
}
class ToReelArgs extends ClipsArg {
  @Ref('reel', 'reel') reel!: string;
}
class NewClip {
  @Text(120, 'name', { min: 1 }) name!: string;
  @Whole(0, LAST_FRAME, 'first frame') in!: number;
  @Whole(1, LAST_FRAME, 'frame after the last') out!: number;
  @Refs('angle', MOST_ANGLES, 'angles') angleIds!: string[];
  @Whole(1, 200, 'speed, per cent') speed!: number;
  @Whole(0, 5, 'rating') rating!: number;
  @Text(200, 'tags') tags!: string;
  @Text(2000, 'note') note!: string;
}
class ImportArgs {
  @Ref('reel', 'reel they go to') reel!: string;
  @ListOf(() => NewClip, MOST_NAMED, 'clips') list!: NewClip[];
}

/** Angles that a new clip takes: the deck's, and the other deck's when ganged. */
function deckAngles({ air }: Desk, deck: DeckNumber): string[] {
  const other: DeckNumber = deck === 1 ? 2 : 1;
  const { decks, gang } = air.replay;
  const ids = [decks[deck].angleId, gang ? decks[other].angleId : null].filter((id) => id !== null);
  return [...new Set(ids)];
}

function makeClip(desk: Desk, deck: DeckNumber, span: { in: number; out: number }, id: string, name?: string): Clip {
  const { show, air } = desk;
  const number = nextNumber(show.replay);
  return {
    id,
    number,
    name: name ?? `Clip ${number} · ${formatTimecode(span.in, show.rate)}`,
    reelId: show.replay.reelId,
    ...span,
    angleIds: deckAngles(desk, deck),
    speed: air.replay.decks[deck].speed,
    colour: TILE_COLOURS[number % TILE_COLOURS.length] ?? '#5aa9c9',
    rating: 0,
    tags: '',
    note: '',
  };
}

/** Puts a clip into the chosen reel. */
function add(desk: Desk, clip: Clip) {
  checkRoom(desk, 1);
  append(desk.show.replay, [clip]);
  return { id: clip.id, number: clip.number };
}

/** Changes the span of a clip. @throws CommandError when it would be empty or not be recorded. */
function setSpan(desk: Desk, clip: Clip, span: { in: number; out: number }, frame: number, field: string): void {
  checkSpan(desk, span, frame, field);
  Object.assign(clip, span);
}

/** Takes clips out of the list and puts them back before another, in their order. */
function replace(desk: Desk, clips: Clip[], before: string | null): void {
  const { replay } = desk.show;
  const moving = new Set(clips.map((c) => c.id));
  const rest = stored(replay).filter((c) => !moving.has(c.id));
  const at = before === null ? -1 : rest.findIndex((c) => c.id === before);
  replay.clips = at < 0 ? [...rest, ...clips] : [...rest.slice(0, at), ...clips, ...rest.slice(at)];
}

export const clipCommands = [
  defineCommand({
    type: 'clip.grab',
    title: 'Grab',
    says: 'Grab a clip',
    about:
      'Makes a clip of the last seconds, wherever the decks stand; in the angle of the deck, or of both when ganged. Returns `id` and `number`.',
    args: GrabArgs,
    run: (desk, { deck, seconds, length = 1 }, { frame, newId }) => {
      const { settings } = desk.show.replay;
      const { recording, kept } = desk.air.replay;
      if (!recording || !kept) throw new CommandError('not-recording', 'Nothing is being recorded: start recording the angles first.');
      const frames = secondsToFrames(
        seconds ?? [settings.grab1, settings.grab2, settings.grab3][length - 1] ?? settings.grab1,
        desk.show.rate,
      );
      const from = Math.max(kept.from, frame - Math.max(1, frames));
      if (from >= frame) throw new CommandError('not-yet', 'Nothing is recorded yet. Wait a moment and grab again.');
      return add(desk, makeClip(desk, deck, { in: from, out: frame }, newId()));
    },
  }),
  defineCommand({
    type: 'clip.add',
    title: 'Make a clip of the marks',
    about: 'Makes a clip from the in mark to the out mark, at the deck’s speed and angle, and clears the marks. Returns `id` and `number`.',
    args: AddArgs,
    run: (desk, { deck, name }, { frame, newId }) => {
      const { replay } = desk.air;
      if (replay.markIn === null || replay.markOut === null) {
        throw new CommandError('no-marks', `No ${replay.markIn === null ? 'in' : 'out'} point is marked. Mark it first.`);
      }
      const span = { in: replay.markIn, out: replay.markOut };
      checkSpan(desk, span, frame);
      Object.assign(replay, { markIn: null, markOut: null });
      return add(desk, makeClip(desk, deck, span, newId(), name));
    },
  }),
  defineCommand({
    type: 'clip.edit',
    title: 'Edit a clip',
    about: 'Name, in, out and note of one clip.',
    args: EditArgs,
    mergeKey: (args) => `clip:${args.clip} ${Object.keys(args).join()}`,
    run: (desk, { clip: id, ...change }, { frame }) => {
      const clip = clipOf(desk, id);
      const { in: from = clip.in, out: to = clip.out, ...rest } = change;
      if (from !== clip.in || to !== clip.out) setSpan(desk, clip, { in: from, out: to }, frame, change.in === undefined ? 'out' : 'in');
      Object.assign(clip, rest);
    },
  }),
  defineCommand({
    type: 'clip.set',
    title: 'Set clips',
    about: 'Speed, colour, rating, tags and angles of any number of clips at once.',
    args: SetArgs,
    mergeKey: (args) => `clips:${Object.keys(args).join()} ${args.clips.join()}`,
    run: (desk, { clips: ids, ...change }) => {
      for (const clip of clipsByIds(desk, ids)) Object.assign(clip, change, change.angleIds && { angleIds: [...new Set(change.angleIds)] });
    },
  }),
  defineCommand({
    type: 'clip.toggleAngle',
    title: 'Angle of clips on or off',
    about: 'Adds an angle behind the others of each clip, or takes it out. The last one stays.',
    args: AngleArgs,
    run: (desk, { clips: ids, angle }) => {
      const clips = clipsByIds(desk, ids);
      const on = !clips.every((c) => c.angleIds.includes(angle));
      if (!on && clips.some((c) => c.angleIds.length === 1))
        throw new CommandError('last-angle', 'A clip keeps at least one angle. Choose another one first.', 'angle');
      if (on && !desk.show.replay.angles.some((a) => a.pictureId === angle))
        throw new CommandError('unknown-angle', `"${angle}" is not an angle of this show.`, 'angle');
      if (on && clips.some((c) => c.angleIds.length >= MOST_ANGLES && !c.angleIds.includes(angle)))
        throw new CommandError('too-many', `A clip shows at most ${MOST_ANGLES} angles.`, 'angle');
      for (const clip of clips) {
        const others = clip.angleIds.filter((a) => a !== angle);
        clip.angleIds = on ? (clip.angleIds.includes(angle) ? clip.angleIds : [...others, angle]) : others;
      }
    },
  }),
  defineCommand({
    type: 'clip.nudge',
    title: 'Nudge an edge of a clip',
    about: 'Moves the in or out point by frames.',
    args: NudgeArgs,
    mergeKey: ({ clip, edge }) => `nudge:${clip} ${edge}`,
    run: (desk, { clip: id, edge, frames }, { frame }) => {
      const clip = clipOf(desk, id);
      setSpan(desk, clip, { in: clip.in, out: clip.out, [edge]: Math.max(0, clip[edge] + frames) }, frame, 'frames');
    },
  }),
  defineCommand({
    type: 'clip.setEdge',
    title: 'Edge of a clip to the playhead',
    about: 'Sets the in point to the frame that the deck shows, or the out point behind it.',
    args: EdgeArgs,
    run: (desk, { clip: id, edge, deck }, { frame }) => {
      const clip = clipOf(desk, id);
      const shown = shownFrame(desk, deck, frame);
      setSpan(desk, clip, { in: clip.in, out: clip.out, [edge]: edge === 'in' ? shown : shown + 1 }, frame, 'edge');
    },
  }),
  defineCommand({
    type: 'clip.split',
    title: 'Split a clip',
    about: 'Makes two clips of one, at a frame or where the deck stands. Returns the `id` of the second.',
    args: SplitArgs,
    run: (desk, { clip: id, at, deck = 1 }, { frame, newId }) => {
      const clip = clipOf(desk, id);
      const cut = at ?? shownFrame(desk, deck, frame);
      if (cut <= clip.in || cut >= clip.out) {
        const say = (f: number) => formatTimecode(f, desk.show.rate);
        throw new CommandError(
          'outside',
          `${clip.name} runs from ${say(clip.in)} to ${say(clip.out)}: it cannot be split at ${say(cut)}.`,
          'at',
        );
      }
      checkRoom(desk, 1);
      const { replay } = desk.show;
      const second: Clip = {
        ...clip,
        angleIds: [...clip.angleIds],
        id: newId(),
        number: nextNumber(replay),
        in: cut,
        name: `${clip.name.slice(0, 110)} (2)`,
      };
      clip.out = cut;
      replay.clips.splice(replay.clips.indexOf(clip) + 1, 0, second);
      return { id: second.id };
    },
  }),
  defineCommand({
    type: 'clip.duplicate',
    title: 'Duplicate clips',
    about: 'Puts a copy of each clip behind it. Returns their `ids`.',
    args: ClipsArg,
    run: (desk, { clips: ids }, { newId }) => {
      const clips = clipsByIds(desk, ids);
      checkRoom(desk, clips.length);
      const { replay } = desk.show;
      const made = clips.map((clip) => {
        const copy: Clip = { ...clip, angleIds: [...clip.angleIds], id: newId(), number: nextNumber(replay) };
        replay.clips.splice(replay.clips.indexOf(clip) + 1, 0, copy);
        return copy.id;
      });
      return { ids: made };
    },
  }),
  defineCommand({
    type: 'clip.remove',
    title: 'Remove clips',
    about: 'Takes clips out of their reel. The recording stays while the budget keeps it; a clip that plays out plays on.',
    args: ClipsArg,
    run: (desk, { clips: ids }) => {
      const gone = new Set(clipsByIds(desk, ids).map((c) => c.id));
      desk.show.replay.clips = stored(desk.show.replay).filter((c) => !gone.has(c.id));
    },
  }),
  defineCommand({
    type: 'clip.move',
    title: 'Reorder clips',
    about: 'Puts clips before another one, or at the end of the list.',
    args: MoveArgs,
    run: (desk, { clips: ids, before }) => {
      const clips = clipsByIds(desk, ids);
      if (before !== null && !ids.includes(before)) clipOf(desk, before);
      if (before === null || !ids.includes(before)) replace(desk, clips, before);
    },
  }),
  defineCommand({
    type: 'clip.shift',
    title: 'Move clips up or down',
    about: 'Moves clips by places within their reel.',
    args: ShiftArgs,
    run: (desk, { clips: ids, by }) => {
      const clips = clipsByIds(desk, ids);
      const all = stored(desk.show.replay);
      const reel = all.filter((c) => c.reelId === clips[0]?.reelId);
      const rest = reel.filter((c) => !ids.includes(c.id));
      const first = reel.findIndex((c) => ids.includes(c.id));
      const to = Math.min(rest.length, Math.max(0, first + by));
      const last = rest.at(-1);
      const behind = last ? (all[all.indexOf(last) + 1]?.id ?? null) : null;
      replace(
        desk,
        clips.filter((c) => c.reelId === clips[0]?.reelId),
        rest[to]?.id ?? (behind !== null && ids.includes(behind) ? null : behind),
      );
    },
  }),
  defineCommand({
    type: 'clip.moveToReel',
    title: 'Move clips to a reel',
    about: 'Puts clips behind the last of another reel.',
    args: ToReelArgs,
    run: (desk, { clips: ids, reel }) => {
      const clips = clipsByIds(desk, ids);
      reelOf(desk, reel);
      const { replay } = desk.show;
      const moving = new Set(ids);
      replay.clips = stored(replay).filter((c) => !moving.has(c.id));
      for (const clip of clips) clip.reelId = reel;
      append(replay, clips);
    },
  }),
  defineCommand({
    type: 'clip.copyToReel',
    title: 'Copy clips to a reel',
    about: 'Puts copies of clips behind the last of a reel. Returns their `ids`.',
    args: ToReelArgs,
    run: (desk, { clips: ids, reel }, { newId }) => {
      const clips = clipsByIds(desk, ids);
      reelOf(desk, reel);
      checkRoom(desk, clips.length);
      const first = nextNumber(desk.show.replay);
      const copies = clips.map((clip, i): Clip => ({
        ...clip,
        angleIds: [...clip.angleIds],
        id: newId(),
        number: first + i,
        reelId: reel,
      }));
      append(desk.show.replay, copies);
      return { ids: copies.map((c) => c.id) };
    },
  }),
  defineCommand({
    type: 'clip.import',
    title: 'Read clips in',
    about: 'Adds a list of clips to a reel, as read from a clip list. Clips that end before they begin are refused, all of them.',
    args: ImportArgs,
    run: (desk, { reel, list }, { newId }) => {
      reelOf(desk, reel);
      checkRoom(desk, list.length);
      list.forEach((c, i) => {
        if (c.out <= c.in) throw new CommandError('empty-span', `Clip ${i + 1} (${c.name}) ends before it begins.`, `list[${i}].out`);
      });
      const first = nextNumber(desk.show.replay);
      const clips = list.map((c, i): Clip => ({
        ...c,
        angleIds: [...new Set(c.angleIds)],
        id: newId(),
        number: first + i,
        reelId: reel,
        colour: TILE_COLOURS[(first + i) % TILE_COLOURS.length] ?? '#5aa9c9',
      }));
      append(desk.show.replay, clips);
      return { ids: clips.map((c) => c.id) };
    },
  }),
];
