/** Commands for reels. */
import { CommandError, defineCommand } from '../commands/command';
import { Ref, Text, Whole } from '../schema/fields';
import { remove } from '../desk/remove';
import { type Clip, clipsOf, MOST_REELS } from './document';
import { append, checkRoom, nextNumber, reelOf } from './edit';

class ReelArg {
  @Ref('reel', 'reel') reel!: string;
}
class NameArgs {
  @Text(60, 'name', { min: 1 }) name!: string;
}
class RenameArgs extends ReelArg {
  @Text(60, 'name', { min: 1 }) name!: string;
}
class MoveArgs extends ReelArg {
  @Whole(0, MOST_REELS - 1, 'place in the list, from 0') index!: number;
}
class NumberArgs {
  @Whole(1, MOST_REELS, 'place in the list') number!: number;
}
class HighlightArgs {
  @Text(60, 'name of the new reel', { min: 1 }) name!: string;
  @Whole(1, 5, 'lowest rating that goes in') rating!: number;
}

export const reelCommands = [
  defineCommand({
    type: 'reel.add',
    title: 'Add a reel',
    about: 'Adds an empty reel and chooses it. Returns its `id`.',
    args: NameArgs,
    run: ({ show: { replay } }, { name }, { newId }) => {
      if (replay.reels.length >= MOST_REELS) throw new CommandError('too-many', `A show holds at most ${MOST_REELS} reels.`);
      const id = newId();
      replay.reels.push({ id, name });
      replay.reelId = id;
      return { id };
    },
  }),
  defineCommand({
    type: 'reel.rename',
    title: 'Rename a reel',
    about: 'Gives a reel another name.',
    args: RenameArgs,
    run: (desk, { reel, name }) => void (reelOf(desk, reel).name = name),
  }),
  defineCommand({
    type: 'reel.choose',
    title: 'Choose a reel',
    about: 'New clips go to the chosen reel.',
    args: ReelArg,
    run: (desk, { reel }) => void (desk.show.replay.reelId = reelOf(desk, reel).id),
  }),
  defineCommand({
    type: 'reel.chooseByNumber',
    title: 'Choose a reel by number',
    about: 'New clips go to the reel in this place of the list.',
    args: NumberArgs,
    run: ({ show: { replay } }, { number }) => {
      const reel = replay.reels[number - 1];
      if (!reel) throw new CommandError('unknown-reel', `There is no reel ${number}.`, 'number');
      replay.reelId = reel.id;
    },
  }),
  defineCommand({
    type: 'reel.move',
    title: 'Move a reel in the list',
    about: 'Changes the order of the reels, and with it their keys.',
    args: MoveArgs,
    run: (desk, { reel, index }) => {
      const { reels } = desk.show.replay;
      const [moved] = reels.splice(reels.indexOf(reelOf(desk, reel)), 1);
      if (moved) reels.splice(Math.min(index, reels.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'reel.remove',
    title: 'Remove a reel',
    about: 'Removes a reel with its clips. The last reel stays.',
    args: ReelArg,
    run: (desk, { reel }) => {
      const { replay } = desk.show;
      reelOf(desk, reel);
      if (replay.reels.length === 1) throw new CommandError('last-reel', 'The last reel stays: new clips go there.', 'reel');
      // New clips need a reel to go to.
      if (replay.reelId === reel) replay.reelId = replay.reels.find((r) => r.id !== reel)?.id ?? replay.reelId;
      remove(desk, 'reel', reel);
    },
  }),
  defineCommand({
    type: 'reel.highlights',
    title: 'Make a reel of the best',
    about: 'Adds a reel with copies of all clips that are rated so high, in order of time. Returns its `id`.',
    args: HighlightArgs,
    run: (desk, { name, rating }, { newId }) => {
      const { replay } = desk.show;
      const best = replay.clips.filter((c) => c.rating >= rating).sort((a, b) => a.in - b.in || a.number - b.number);
      if (best.length === 0) throw new CommandError('no-clips', `No clip is rated ${rating} or more. Rate some first.`, 'rating');
      if (replay.reels.length >= MOST_REELS) throw new CommandError('too-many', `A show holds at most ${MOST_REELS} reels.`);
      checkRoom(desk, best.length);
      const id = newId();
      const first = nextNumber(replay);
      replay.reels.push({ id, name });
      append(
        replay,
        best.map((clip, i): Clip => ({ ...clip, angleIds: [...clip.angleIds], id: newId(), number: first + i, reelId: id })),
      );
      return { id, clips: clipsOf(replay, id).length };
    },
  }),
];
