/** Commands for the lanes over the picture. */
import { CommandError, defineCommand } from '../commands/command';
import { type Entry } from '../graphics/document';
import { findGraphic, type FoundGraphic } from '../graphics/find';
import { isEmpty } from '../graphics/values';
import { stepEntry } from '../graphics/step';
import { Flag, Id, Nested, Num, Ref, Text, Variant, Whole } from '../schema/fields';
import { createAirLane, laneIsUp, lanePictures } from './air';
import { createLane, freeLaneNumber } from './create';
import { type Rect, RectField } from '../show/geometry';
import { type Key, keyClass } from '../layout/look';
import { LaneContent, MOST_LANES, Move } from './document';
import { checkKey } from '../layout/edit';
import { requirePicture } from './edit';
import { remove } from '../desk/remove';
import { endHold, laneOf, lowerLane, raiseLane } from './mixer';
import { preparedPicture } from './plan';

class LaneArg {
  @Ref('lane', 'lane') lane!: string;
}
class ArmLaneArgs extends LaneArg {
  @Flag('true to change with the next take; without it, the other way', { optional: true }) on?: boolean;
}
class ContentArgs extends LaneArg {
  @Nested(() => LaneContent, 'a picture of any kind, an entry of a graphic too; null empties the lane', { nullable: true })
  content!: LaneContent | null;
}
class LaneSettingsArgs extends LaneArg {
  @Whole(1, MOST_LANES, 'number, by which keys find it; the lane that had it gets none', { optional: true, nullable: true })
  number?: number | null;
  @Text(40, 'name', { optional: true, min: 1 }) name?: string;
  @Nested(() => Move, 'how it comes', { optional: true }) in?: Move;
  @Nested(() => Move, 'how it goes', { optional: true }) out?: Move;
  @Nested(() => RectField, 'place on the raster; null for the content’s own', { optional: true, nullable: true }) rect?: Rect | null;
  @Variant(keyClass, 'key', { optional: true, nullable: true }) key?: Key | null;
  @Ref('picture', 'up while this picture is on air; null for none', { optional: true, nullable: true }) whileId?: string | null;
  @Flag('stays over a fade to black', { optional: true }) throughBlack?: boolean;
  @Flag('what is up follows edits of its entry at once', { optional: true }) follows?: boolean;
  @Num(0.2, 86400, 'leaves by itself after so many seconds; null stays', { optional: true, nullable: true })
  holdSeconds?: number | null;
}

class NextArgs extends LaneArg {
  @Whole(-1, 1, '1 for the next, −1 for the one before', { optional: true }) by?: number;
}
class StepArgs extends LaneArg {
  @Id('number field; without it, the first', { optional: true }) field?: string;
  @Num(-1e6, 1e6, 'what is added') by!: number;
}
class ShowPictureArgs extends LaneArg {
  @Ref('picture', 'picture of any kind, an entry too') picture!: string;
}
class AddLaneArgs {
  @Text(40, 'name', { min: 1, optional: true }) name?: string;
}
class MoveLaneArgs extends LaneArg {
  @Whole(0, MOST_LANES, 'place, from 0, the lowest') index!: number;
}

/** The entry after another, or before it; those that are done, and empty rows of a sheet, are passed over. */
function entryAfter({ graphic: { entries }, entry }: FoundGraphic, by: number): Entry | undefined {
  const from = entry ? entries.findIndex((e) => e.id === entry.id) : by > 0 ? -1 : entries.length;
  const open = (e: Entry) => !e.done && (e.rowKey === null || e.values.some((v) => !isEmpty(v.value)));
  return by > 0 ? entries.slice(from + 1).filter(open)[by - 1] : entries.slice(0, Math.max(0, from)).filter(open).at(by);
}

export const laneCommands = [
  defineCommand({
    type: 'lane.setContent',
    title: 'Fill a lane',
    says: 'Hold {content} ready in {lane}',
    about: 'Says what a lane holds ready. What it shows on air stays until it is shown anew.',
    args: ContentArgs,
    run: (desk, { lane, content }) => {
      const found = laneOf(desk, lane);
      if (content && !preparedPicture(desk.show, content, 0)) {
        throw new CommandError('unknown-content', `There is no ${content.kind} "${content.id}" in this show.`, 'content.id');
      }
      found.lane.content = content;
    },
  }),
  defineCommand({
    type: 'lane.show',
    title: 'Show a lane',
    says: 'Show {lane}',
    about: 'Fades the prepared content in; what the lane showed before fades out under it.',
    args: LaneArg,
    run: (desk, { lane }, { frame }) => {
      raiseLane(desk, lane, frame, laneOf(desk, lane).lane.in.frames);
    },
  }),
  defineCommand({
    type: 'lane.hide',
    title: 'Hide a lane',
    says: 'Hide {lane}',
    about: 'Fades the lane out.',
    args: LaneArg,
    run: (desk, { lane }, { frame }) => {
      lowerLane(desk, lane, frame, laneOf(desk, lane).lane.out.frames);
    },
  }),
  defineCommand({
    type: 'lane.holdOver',
    title: 'End the hold of an animation',
    about: 'Sent by the engine when the seconds of a hold point have gone by: the animation goes on to the next, or the lane leaves.',
    args: LaneArg,
    fromEngine: true,
    run: (desk, { lane }, { frame }) => endHold(desk, lane, frame),
  }),
  defineCommand({
    type: 'lane.toggle',
    title: 'Show or hide a lane',
    says: 'Show or hide {lane}',
    about: 'Hides a lane that is up, shows one that is down.',
    args: LaneArg,
    run: (desk, { lane: id }, { frame }) => {
      const { lane, state } = laneOf(desk, id);
      if (laneIsUp(state, frame)) lowerLane(desk, id, frame, lane.out.frames);
      else raiseLane(desk, id, frame, lane.in.frames);
    },
  }),
  defineCommand({
    type: 'lane.arm',
    title: 'Arm a lane',
    about: 'Lets a lane change together with the next take: in if it is down, out if it is up.',
    args: ArmLaneArgs,
    run: (desk, { lane: id, on }, { frame }) => {
      const { lane, state } = laneOf(desk, id);
      const wanted = on ?? !state.armed;
      if (wanted && !lane.content && !laneIsUp(state, frame)) {
        throw new CommandError('empty-lane', `${lane.name} holds nothing to show. Give it an entry or a source first.`, 'lane');
      }
      Object.assign(state, { armed: wanted, changes: false });
    },
  }),
  defineCommand({
    type: 'lane.set',
    title: 'Set up a lane',
    about: 'Name, place, key, moves and hold time of a lane, and what it goes with.',
    args: LaneSettingsArgs,
    mergeKey: ({ lane }) => `lane:${lane}`,
    run: (desk, { lane, ...settings }) => {
      if (settings.whileId) requirePicture(desk, settings.whileId, 'whileId');
      checkKey(desk, settings.key);
      const found = laneOf(desk, lane).lane;
      // A number means one lane.
      if (typeof settings.number === 'number')
        for (const other of desk.show.lanes) if (other.number === settings.number) other.number = null;
      Object.assign(found, settings);
    },
  }),
  defineCommand({
    type: 'lane.next',
    title: 'Next entry of a lane',
    says: 'Next entry in {lane}',
    about: 'Holds the next entry of the same graphic ready, or the one before; what is up changes to it at once.',
    args: NextArgs,
    run: (desk, { lane: id, by = 1 }, { frame }) => {
      const { lane, state } = laneOf(desk, id);
      const found = findGraphic(desk.show, lane.content?.id ?? null);
      const next = found ? entryAfter(found, by) : undefined;
      if (!next)
        throw new CommandError(
          'no-entry',
          found ? `${found.graphic.name} has no further entry.` : `${lane.name} holds no entry of a graphic.`,
          'lane',
        );
      lane.content = { kind: 'picture', id: next.id };
      if (laneIsUp(state, frame)) raiseLane(desk, id, frame, lane.in.frames);
    },
  }),
  defineCommand({
    type: 'lane.step',
    title: 'Count a number in a lane',
    about: 'As `entry.step`, of the entry that a lane holds.',
    args: StepArgs,
    run: (desk, { lane: id, field, by }, { frame }) => {
      const { lane } = laneOf(desk, id);
      if (!findGraphic(desk.show, lane.content?.id ?? null)?.entry)
        throw new CommandError('no-entry', `${lane.name} holds no entry of a graphic.`, 'lane');
      stepEntry(desk, lane.content?.id ?? '', field, by, frame);
    },
  }),
  defineCommand({
    type: 'lane.showPicture',
    title: 'Show in a lane',
    says: 'Show {picture} in {lane}',
    about: 'Holds a picture or entry ready in a lane and shows it at once. What is up of the same design changes into it.',
    args: ShowPictureArgs,
    run: (desk, { lane: id, picture }, { frame }) => {
      const { lane } = laneOf(desk, id);
      requirePicture(desk, picture);
      lane.content = { kind: 'picture', id: picture };
      raiseLane(desk, id, frame, lane.in.frames);
    },
  }),
  defineCommand({
    type: 'lane.add',
    title: 'Add a lane',
    about: 'Adds an empty lane over the others. Returns its `id`.',
    args: AddLaneArgs,
    run: ({ show, air }, { name }, { newId }) => {
      if (show.lanes.length >= MOST_LANES) throw new CommandError('too-many', `A show has at most ${MOST_LANES} lanes.`);
      const number = freeLaneNumber(show.lanes);
      const lane = createLane(newId(), name ?? `Lane ${number ?? show.lanes.length + 1}`, number);
      show.lanes.push(lane);
      air.lanes[lane.id] = createAirLane();
      return { id: lane.id };
    },
  }),
  defineCommand({
    type: 'lane.move',
    title: 'Move a lane',
    about: 'Puts a lane over or under others; seen at once when it is up.',
    args: MoveLaneArgs,
    run: (desk, { lane, index }) => {
      const { lanes } = desk.show;
      const [moved] = lanes.splice(lanes.indexOf(laneOf(desk, lane).lane), 1);
      if (moved) lanes.splice(Math.min(index, lanes.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'lane.remove',
    title: 'Remove a lane',
    about: 'Refused while it shows something.',
    args: LaneArg,
    run: (desk, { lane: id }, { frame }) => {
      const { lane, state } = laneOf(desk, id);
      if (lanePictures(state, frame).length > 0 || laneIsUp(state, frame))
        throw new CommandError('in-use', `${lane.name} is up. Hide it first.`, 'lane');
      remove(desk, 'lane', id);
      delete desk.air.lanes[id];
    },
  }),
];
