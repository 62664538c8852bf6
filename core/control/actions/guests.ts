/** Actions of the room Guests. */
import { type Comment } from '../../audience/air';
import { guestNow } from '../../guests/air';
import { type Guest } from '../../guests/document';
import { command, numberArg, refuse, type Action, type ActionArgs, type Hands, type Meaning } from '../action';
import { actionsOf, number } from '../make';

const people = actionsOf('guests', 'Chosen guest');
const seats = actionsOf('guests', 'Seats and casts');

const comments = actionsOf('guests', 'Comments');

const NO_COMMENT = 'No comment is chosen. Press Older or Newer, or one of the list.';

const withComment =
  (run: (comment: Comment) => Meaning) =>
  (hands: Hands): Meaning => {
    const comment = hands.desk.air.audience.inbox.find((c) => c.id === hands.chosen.comment);
    return comment ? run(comment) : refuse(NO_COMMENT);
  };

const NONE = 'No guest is chosen. Press a number, or the card of one.';

const withGuest =
  (run: (guest: Guest, hands: Hands, args: ActionArgs) => Meaning) =>
  (hands: Hands, args: ActionArgs): Meaning => {
    const guest = hands.desk.show.guests.list.find((g) => g.id === hands.chosen.guest);
    return guest ? run(guest, hands, args) : refuse(NONE);
  };

const SEAT = [number('number', 'Seat, in the order of the list', 1, 9)];

export const GUEST_ACTIONS: readonly Action[] = [
  people.act('guests.choose', 'Choose guest {number}', 'Guest {number}', {
    params: [number('number', 'Guest, in the order of the list', 1, 9)],
    lit: ({ desk: { show }, chosen }, args) => show.guests.list[numberArg(args, 'number') - 1]?.id === chosen.guest,
  }),
  people.press(
    'guests.admit',
    'Admit the chosen guest',
    'Admit',
    withGuest((g) => command('guest.admit', { guest: g.id })),
  ),
  people.press(
    'guests.hold',
    'Send the chosen guest back to the green room',
    'Green room',
    withGuest((g) => command('guest.hold', { guest: g.id })),
  ),
  people.press(
    'guests.talk',
    'Talk to the chosen guest while it is held',
    'Talk',
    withGuest((g) =>
      g.listenerId === null
        ? refuse(`${g.name} has no mix of their own to be spoken into.`)
        : command('talkback.start', { listeners: [g.listenerId] }),
    ),
    { release: () => ({ kind: 'act', id: 'talk.end', args: {} }), lit: ({ desk }) => desk.air.sound.talkback !== null },
  ),
  people.press(
    'guests.hand',
    'Take the raised hand of the chosen guest down',
    'Hand',
    withGuest((g, { desk }) => command('guest.hand', { guest: g.id, hand: !guestNow(desk.air, g.id).hand })),
  ),
  people.act('guests.note', 'Write to the chosen guest', 'Write'),
  seats.press(
    'guests.seat',
    'Put the chosen guest into seat {number}',
    'Seat {number}',
    withGuest((g, { desk: { show } }, args) => {
      const seat = show.seats[numberArg(args, 'number') - 1];
      return seat ? command('seat.fill', { seat: seat.id, occupant: g.sourceId }) : refuse(`There is no seat ${args.number}.`);
    }),
    { params: SEAT },
  ),
  seats.press(
    'guests.clear',
    'Empty seat {number}',
    'Empty {number}',
    ({ desk: { show } }, args) => {
      const seat = show.seats[numberArg(args, 'number') - 1];
      return seat ? command('seat.fill', { seat: seat.id, occupant: null }) : refuse(`There is no seat ${args.number}.`);
    },
    { params: SEAT },
  ),
  seats.press(
    'guests.cast',
    'Recall cast {number}',
    'Cast {number}',
    ({ desk: { show } }, args) => {
      const cast = show.guests.casts[numberArg(args, 'number') - 1];
      return cast ? command('cast.recall', { cast: cast.id }) : refuse(`There is no cast ${args.number}.`);
    },
    { params: [number('number', 'Cast, in the order of the list', 1, 9)] },
  ),
  comments.act('comments.older', 'Choose the next older comment', 'Older', { repeats: true }),
  comments.act('comments.newer', 'Choose the next newer comment', 'Newer', { repeats: true }),
  comments.press(
    'comments.queue',
    'Queue the chosen comment',
    'Queue',
    withComment((c) => command('comment.queue', { comment: c.id })),
  ),
  comments.press(
    'comments.star',
    'Mark the chosen comment with a star, or take it away',
    'Star',
    withComment((c) => command('comment.star', { comment: c.id, on: !c.star })),
  ),
  comments.press(
    'comments.hide',
    'Hide the chosen comment, or bring it back',
    'Hide',
    withComment((c) => command('comment.hide', { comment: c.id, on: !c.hidden })),
  ),
  comments.press('comments.next', 'Show the next comment of the queue', 'Show next', () => command('comment.show')),
  comments.press('comments.out', 'Take the comment out', 'Out', () => command('comment.out')),
];
