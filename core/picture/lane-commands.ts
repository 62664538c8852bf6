/** Commands for the lanes over the picture. */
import { CommandError, defineCommand } from '../commands/command';
import { Flag, Id, Nested, Num, Text, Whole } from '../schema/fields';
import { laneIsUp } from '../show/air';
import { LaneContent } from '../show/show';
import { laneOf, lowerLane, raiseLane } from './mixer';
import { preparedPicture } from './plan';

class LaneArg {
  @Id('lane') lane!: string;
}
class ArmLaneArgs extends LaneArg {
  @Flag('true to change with the next take; without it, the other way', { optional: true }) on?: boolean;
}
class ContentArgs extends LaneArg {
  @Nested(() => LaneContent, 'a source or a card; null empties the lane', { nullable: true }) content!: LaneContent | null;
}
class LaneSettingsArgs extends LaneArg {
  @Text(40, 'name', { optional: true, min: 1 }) name?: string;
  @Whole(0, 600, 'fade in and out, frames', { optional: true }) fadeFrames?: number;
  @Num(0.2, 86400, 'leaves by itself after so many seconds; null stays', { optional: true, nullable: true })
  holdSeconds?: number | null;
}

export const laneCommands = [
  defineCommand({
    type: 'lane.setContent',
    title: 'Fill a lane',
    about: 'Says what a lane holds ready. What it shows on air stays until it is shown anew.',
    args: ContentArgs,
    run: (desk, { lane, content }) => {
      const found = laneOf(desk, lane);
      if (content && !preparedPicture(desk.show, content)) {
        throw new CommandError('unknown-content', `There is no ${content.kind} "${content.id}" in this show.`, 'content.id');
      }
      found.lane.content = content;
    },
  }),
  defineCommand({
    type: 'lane.show',
    title: 'Show a lane',
    about: 'Fades the prepared content in; what the lane showed before fades out under it.',
    args: LaneArg,
    run: (desk, { lane }, { frame }) => {
      raiseLane(desk, lane, frame, laneOf(desk, lane).lane.fadeFrames);
    },
  }),
  defineCommand({
    type: 'lane.hide',
    title: 'Hide a lane',
    about: 'Fades the lane out.',
    args: LaneArg,
    run: (desk, { lane }, { frame }) => {
      lowerLane(desk, lane, frame, laneOf(desk, lane).lane.fadeFrames);
    },
  }),
  defineCommand({
    type: 'lane.toggle',
    title: 'Show or hide a lane',
    about: 'Hides a lane that is up, shows one that is down.',
    args: LaneArg,
    run: (desk, { lane: id }, { frame }) => {
      const { lane, state } = laneOf(desk, id);
      if (laneIsUp(state, frame)) lowerLane(desk, id, frame, lane.fadeFrames);
      else raiseLane(desk, id, frame, lane.fadeFrames);
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
        throw new CommandError('empty-lane', `${lane.name} holds nothing to show. Give it a card or a source first.`, 'lane');
      }
      state.armed = wanted;
    },
  }),
  defineCommand({
    type: 'lane.set',
    title: 'Set up a lane',
    about: 'Name, fade and hold time of a lane. Counts from its next showing.',
    args: LaneSettingsArgs,
    mergeKey: ({ lane }) => `lane:${lane}`,
    run: (desk, { lane, ...settings }) => {
      Object.assign(laneOf(desk, lane).lane, settings);
    },
  }),
];
