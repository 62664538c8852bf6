/** Commands for comments: what comes in, what the moderation does with it, and how it is shown. */
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { type Desk } from '../desk/air';
import { laneOf, lowerLane, raiseLane } from '../picture/mixer';
import { Flag, Id, ListOf, Num, OneOf, Ref, Text, Whole } from '../schema/fields';
import { plainWords } from '../schema/plain-words';
import { type Comment, MOST_INBOX } from './air';
import { MOST_BANNED, MOST_QUEUED, type Origin, ORIGINS, type QueuedComment } from './document';
import { LONGEST_COMMENT, LONGEST_SENDER_NAME } from './limits';
import { commentOf, queuedOf } from './edit';
import { heldWord } from './moderation';
import { shownComment } from './shown';

class HeardComment {
  @Id('identity') id!: string;
  @Id('who sent it') from!: string;
  @Text(LONGEST_SENDER_NAME, 'name') name!: string;
  @Text(LONGEST_COMMENT, 'words', { min: 1 }) text!: string;
  @OneOf(ORIGINS, 'from a guest, or from the audience') origin!: Origin;
  @Num(0, 1e14, 'wall time, milliseconds since 1970') at!: number;
}
class HeardArgs {
  @ListOf(() => HeardComment, 100, 'comments, the oldest first') comments!: HeardComment[];
}
class CommentArg {
  @Id('comment') comment!: string;
}
class QueuedArg {
  @Ref('comment', 'comment of the queue') comment!: string;
}
class SwitchArgs extends CommentArg {
  @Flag('true, or false to take it back') on!: boolean;
}
class AnswerArgs extends CommentArg {
  @Text(LONGEST_COMMENT, 'what whoever wrote it reads; empty takes it back') text!: string;
}
class MoveArgs extends QueuedArg {
  @Whole(0, MOST_QUEUED, 'place in the queue, from 0') index!: number;
}
class EditArgs extends QueuedArg {
  @Text(LONGEST_COMMENT, 'what is shown', { min: 1 }) text!: string;
}
class ShowArgs {
  @Ref('comment', 'comment of the queue; without it, the next that was not shown', { optional: true }) comment?: string;
}
class PictureArgs extends QueuedArg {
  @Ref('asset', 'asset that holds the picture') picture!: string;
}
class BanArgs {
  @Id('who sent it, as the comment says') from!: string;
  @Flag('false to take of them again') on!: boolean;
}

/** Comments that are left when there are too many: those that are hidden go first, then the oldest; a star keeps one longer. */
function trimmed(inbox: readonly Comment[]): Comment[] {
  const over = inbox.length - MOST_INBOX;
  if (over <= 0) return [...inbox];
  const rank = (c: Comment) => (c.hidden ? 0 : c.star ? 2 : 1);
  const going = new Set([...inbox].sort((a, b) => rank(a) - rank(b) || a.at - b.at).slice(0, over));
  return inbox.filter((c) => !going.has(c));
}

/** Graphic and lane that show comments. @throws CommandError where they are not chosen */
function placeOf({ show }: Desk): { graphicId: string; laneId: string } {
  const { graphicId, laneId } = show.audience;
  if (graphicId === null || laneId === null)
    throw new CommandError(
      'no-comment-place',
      'Nothing is chosen to show comments in. Choose a graphic and a lane for them in Guests, or let them be set up there.',
    );
  return { graphicId, laneId };
}

function raise(desk: Desk, comment: QueuedComment, frame: number): void {
  const { graphicId, laneId } = placeOf(desk);
  const graphic = desk.show.graphics.list.find((g) => g.id === graphicId);
  const entry = graphic?.entries.find((e) => e.rowKey === comment.id);
  if (!entry)
    throw new CommandError(
      'no-comment-place',
      `${graphic?.name ?? 'The graphic'} is not tied to a sheet of comments, with all of its rows.`,
    );
  const { lane } = laneOf(desk, laneId);
  lane.content = { kind: 'picture', id: entry.id };
  comment.shown = true;
  raiseLane(desk, laneId, frame, lane.in.frames);
}

export const commentCommands = [
  defineCommand({
    type: 'comment.heard',
    title: 'Take comments in',
    about:
      'Sent by the engine when comments have come. Of senders who are banned nothing is taken; what has a word to hold back is marked.',
    args: HeardArgs,
    fromEngine: true,
    outside: true,
    run: ({ show, air }, { comments }) => {
      const { banned, words } = show.audience;
      const known = new Set(air.audience.inbox.map((c) => c.id));
      const fresh = comments.flatMap((c): Comment[] => {
        const [name, text] = [plainWords(c.name, LONGEST_SENDER_NAME), plainWords(c.text, LONGEST_COMMENT)];
        if (known.has(c.id) || banned.includes(c.from) || text === '') return [];
        known.add(c.id);
        return [{ ...c, name, text, held: heldWord(words, `${name} ${text}`), star: false, hidden: false, answer: '' }];
      });
      if (fresh.length > 0) air.audience.inbox = trimmed([...air.audience.inbox, ...fresh]);
      return { taken: fresh.length };
    },
  }),
  defineCommand({
    type: 'comment.star',
    title: 'Mark a comment with a star',
    about: 'It stays longer than others, and is found by its star.',
    args: SwitchArgs,
    run: (desk, { comment, on }) => void (commentOf(desk, comment).star = on),
  }),
  defineCommand({
    type: 'comment.hide',
    title: 'Hide a comment',
    about: 'It is out of sight of the moderation. One that is in the queue or on air stays there.',
    args: SwitchArgs,
    run: (desk, { comment, on }) => void (commentOf(desk, comment).hidden = on),
  }),
  defineCommand({
    type: 'comment.answer',
    title: 'Answer a comment',
    about: 'Whoever wrote it reads the answer on their page; nobody else does.',
    args: AnswerArgs,
    run: (desk, { comment, text }) => void (commentOf(desk, comment).answer = text),
  }),
  defineCommand({
    type: 'comment.ban',
    title: 'Ban a sender',
    about: 'Nothing more is taken of whoever sent it, and what has come of them is hidden.',
    args: BanArgs,
    run: ({ show, air }, { from, on }) => {
      const { audience } = show;
      if (on && !audience.banned.includes(from)) {
        if (audience.banned.length >= MOST_BANNED) throw new CommandError('too-many', `At most ${MOST_BANNED} senders are banned.`, 'from');
        audience.banned.push(from);
      } else if (!on) audience.banned = audience.banned.filter((b) => b !== from);
      for (const comment of air.audience.inbox) if (comment.from === from) comment.hidden = on;
    },
  }),
  defineCommand({
    type: 'comment.queue',
    title: 'Queue a comment',
    about: 'Chosen to be shown: it stands at the end of the queue, and in sheets of comments. It is kept with the show.',
    args: CommentArg,
    run: (desk, { comment }) => {
      const { queue } = desk.show.audience;
      const { id, name, text, origin, from } = commentOf(desk, comment);
      if (queue.some((c) => c.id === id)) throw new CommandError('in-queue', 'This comment is in the queue already.', 'comment');
      if (queue.length >= MOST_QUEUED)
        throw new CommandError('too-many', `The queue holds at most ${MOST_QUEUED} comments. Take out those that were shown.`);
      queue.push({ id, name, text, written: text, origin, from, pictureId: null, shown: false });
    },
  }),
  defineCommand({
    type: 'comment.unqueue',
    title: 'Take a comment out of the queue',
    about: 'Refused while it is on air.',
    args: QueuedArg,
    run: (desk, { comment }, { frame }) => {
      const queued = queuedOf(desk, comment);
      if (shownComment(desk, frame) === comment) throw new CommandError('in-use', 'This comment is on air. Take it out first.', 'comment');
      const { audience } = desk.show;
      audience.queue = audience.queue.filter((c) => c.id !== queued.id);
    },
  }),
  defineCommand({
    type: 'comment.clear',
    title: 'Take comments that were shown out of the queue',
    about: 'All but the one that is on air.',
    args: NoArgs,
    run: (desk, _, { frame }) => {
      const up = shownComment(desk, frame);
      const { audience } = desk.show;
      if (audience.queue.some((c) => c.shown && c.id !== up)) audience.queue = audience.queue.filter((c) => !c.shown || c.id === up);
    },
  }),
  defineCommand({
    type: 'comment.move',
    title: 'Move a comment in the queue',
    about: 'To another place of the queue.',
    args: MoveArgs,
    run: (desk, { comment, index }) => {
      const { queue } = desk.show.audience;
      const [moved] = queue.splice(queue.indexOf(queuedOf(desk, comment)), 1);
      if (moved) queue.splice(Math.min(index, queue.length), 0, moved);
    },
  }),
  defineCommand({
    type: 'comment.edit',
    title: 'Change what is shown of a comment',
    about: 'What was written stays beside it, and sheets of comments say that the crew has changed it.',
    args: EditArgs,
    mergeKey: ({ comment }) => `comment:${comment}`,
    run: (desk, { comment, text }) => void (queuedOf(desk, comment).text = text),
  }),
  defineCommand({
    type: 'comment.show',
    title: 'Show a comment',
    says: 'Show a comment',
    about:
      'In the graphic and lane that are chosen for comments: one of the queue, or the next that was not shown. What is up changes into it.',
    args: ShowArgs,
    run: (desk, { comment }, { frame }) => {
      const next = comment === undefined ? desk.show.audience.queue.find((c) => !c.shown) : queuedOf(desk, comment);
      if (!next) throw new CommandError('no-comment', 'The queue has no comment that was not shown.');
      raise(desk, next, frame);
      return { comment: next.id };
    },
  }),
  defineCommand({
    type: 'comment.out',
    title: 'Take the comment out',
    says: 'Take the comment out',
    about: 'Hides the lane that is chosen for comments.',
    args: NoArgs,
    run: (desk, _, { frame }) => {
      const { laneId } = placeOf(desk);
      lowerLane(desk, laneId, frame, laneOf(desk, laneId).lane.out.frames);
    },
  }),
  defineCommand({
    type: 'comment.picture',
    title: 'Keep the picture of a comment',
    about: 'Sent by the engine when the picture of whoever wrote it has come.',
    args: PictureArgs,
    fromEngine: true,
    outside: true,
    run: (desk, { comment, picture }) => void (queuedOf(desk, comment).pictureId = picture),
  }),
];
