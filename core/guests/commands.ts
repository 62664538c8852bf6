/** Commands for guests: who they are, the green room, what they are told. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { createSource, TILE_COLOURS } from '../desk/create';
import { remove } from '../desk/remove';
import { Flag, Num, OneOf, Ref, Text, Whole } from '../schema/fields';
import { createBus, MOST_BUSES } from '../sound/document';
import { Anyway, guardLoops } from '../sound/edit';
import { createGathering, GATHERING_KINDS, type Guest, LONGEST_GUEST_NAME, MOST_GUESTS } from './document';
import { guestOf, nowOf, seenOnAir } from './edit';

class AddArgs {
  @Text(LONGEST_GUEST_NAME, 'name as it is shown', { min: 1 }) name!: string;
  @Text(80, 'what is said of them beside the name', { optional: true }) title?: string;
  @Ref('seat', 'seat that they are put into', { optional: true }) seat?: string;
}
class GuestArg {
  @Ref('guest', 'guest') guest!: string;
}
class EditArgs extends GuestArg {
  @Text(LONGEST_GUEST_NAME, 'name as it is shown', { min: 1, optional: true }) name?: string;
  @Text(80, 'what is said of them beside the name', { optional: true }) title?: string;
  @Flag('counts in the gathered views', { optional: true }) counts?: boolean;
  @Whole(90, 2160, 'height wanted of their picture, pixels', { optional: true }) height?: number;
  @Whole(5, 60, 'frames a second wanted of their picture', { optional: true }) frameRate?: number;
}
class AdmitArgs extends GuestArg {
  @Ref('seat', 'seat that they are put into', { optional: true }) seat?: string;
  @Anyway() anyway?: boolean;
}
class NoteArgs extends GuestArg {
  @Text(300, 'what they read; empty takes it away') text!: string;
}
class OrderArgs extends GuestArg {
  @Flag('they see it') on!: boolean;
}

class ClockArgs extends GuestArg {
  @Ref('clock', 'clock that they see; null for none', { nullable: true }) clock!: string | null;
}
class HandArgs extends GuestArg {
  @Flag('they want to say something') hand!: boolean;
}
class ReportArgs extends GuestArg {
  @OneOf(['in', 'lost', 'out'], 'they have come, their line is down, or they have left', { optional: true }) line?: 'in' | 'lost' | 'out';
  @Text(LONGEST_GUEST_NAME, 'what they have said that they are called', { optional: true }) said?: string;
  @Flag('they want to say something', { optional: true }) hand?: boolean;
  @OneOf(['loudspeaker', 'headphones', 'unknown'], 'by what they hear', { optional: true }) hears?:
    'loudspeaker' | 'headphones' | 'unknown';
  @Flag('they share a screen', { optional: true }) shares?: boolean;
  @Text(300, 'what is wrong with camera or microphone; empty for nothing', { optional: true }) trouble?: string;
  @Num(0, 1e14, 'wall time of their consent, milliseconds since 1970', { optional: true }) agreedAt?: number;
}

/** A mix of their own: all but themself, as the rule of guests has it. Null when no more fit; they hear the programme then. */
function addListener({ show }: Desk, name: string, sourceId: string, newId: () => string): string | null {
  const { buses, listeners } = show.sound;
  if (buses.length >= MOST_BUSES || listeners.length >= 64) return null;
  const busId = newId();
  const colour = TILE_COLOURS[buses.length % TILE_COLOURS.length] ?? '#5aa9c9';
  buses.push(createBus(busId, name.slice(0, 40), colour, 'live'));
  const id = newId();
  listeners.push({ id, name, kind: 'guest', busId, rule: 'all-but-self', ownIds: [sourceId], place: null, open: false, talkback: true });
  return id;
}

/** @throws CommandError unless they are there */
function mustBeThere(desk: Desk, { id, name }: Guest, frame: number) {
  const now = nowOf(desk, id, frame);
  if (now.state === 'away') throw new CommandError('guest-away', `${name} is not here. They come in by their link.`, 'guest');
  return now;
}

/** The audience may see them: what takes them out of the show is held. */
const isAdmitted = ({ air }: Desk, { guest }: GuestArg): boolean => air.guests.now[guest]?.state === 'admitted';

export const guestCommands = [
  defineCommand({
    type: 'guest.add',
    title: 'Add a guest',
    about:
      'Somebody who will join from a browser: with a source for their picture and sound, a source for a screen that they share, and a mix that has all but themself. Returns `id`, `source` and `screen`.',
    args: AddArgs,
    run: (desk, { name, title = '', seat }, { newId }) => {
      const { show } = desk;
      if (show.guests.list.length >= MOST_GUESTS) throw new CommandError('too-many', `A show has at most ${MOST_GUESTS} guests.`);
      if (show.sources.length > 498) throw new CommandError('too-many', 'A show has at most 500 sources.');
      const target = show.seats.find((s) => s.id === seat);
      if (seat !== undefined && !target) throw new CommandError('unknown-seat', `There is no seat "${seat}" in this show.`, 'seat');
      const [id, source, screen] = [newId(), newId(), newId()];
      show.sources.push(createSource(show, source, name, { kind: 'guest' }));
      const shared = createSource(show, screen, `${name.slice(0, 60)}, screen`, { kind: 'guest' });
      show.sources.push({ ...shared, number: null, feedsOnly: true });
      const listenerId = addListener(desk, name, source, newId);
      show.guests.list.push({
        id,
        name,
        title,
        sourceId: source,
        screenId: screen,
        listenerId,
        counts: true,
        height: 360,
        frameRate: 25,
      });
      if (target) target.occupantId = source;
      // The first brings the gathered views along: they are pictures like any other from then on.
      if (show.guests.list.length === 1 && show.guests.gatherings.length === 0)
        for (const kind of GATHERING_KINDS) show.guests.gatherings.push(createGathering(newId(), kind));
      return { id, source, screen };
    },
  }),
  defineCommand({
    type: 'guest.edit',
    title: 'Edit a guest',
    about: 'Name and title as they are shown, whether they count in the gathered views, and how their picture is wanted.',
    args: EditArgs,
    mergeKey: ({ guest, ...change }) => `guest:${guest}:${Object.keys(change).join()}`,
    run: (desk, { guest, ...change }) => {
      const target = guestOf(desk, guest);
      Object.assign(target, change);
      if (change.name === undefined) return;
      // Whatever is theirs is called like them: tiles, strips, mixes.
      const { sources, sound } = desk.show;
      const name = (id: string | null, list: { id: string; name: string }[], text: string) => {
        const item = list.find((i) => i.id === id);
        if (item) item.name = text;
      };
      name(target.sourceId, sources, change.name);
      name(target.screenId, sources, `${change.name.slice(0, 60)}, screen`);
      name(target.listenerId, sound.listeners, change.name);
      const busId = sound.listeners.find((l) => l.id === target.listenerId)?.busId ?? null;
      if (sound.listeners.filter((l) => l.busId === busId).length === 1) name(busId, sound.buses.slice(1), change.name.slice(0, 40));
    },
  }),
  defineCommand({
    type: 'guest.remove',
    title: 'Remove a guest',
    about: 'With their sources and their mix. Refused while they are seen on air.',
    args: GuestArg,
    run: (desk, { guest }, { frame }) => {
      const target = { ...guestOf(desk, guest) };
      const places = seenOnAir(desk, target, frame);
      if (places.length > 0) throw new CommandError('in-use', `${target.name} is seen on air: ${places.join('; ')}.`, 'guest');
      remove(desk, 'guest', guest);
      for (const id of [target.sourceId, target.screenId]) if (id !== null) remove(desk, 'source', id);
      if (target.listenerId !== null) remove(desk, 'listener', target.listenerId);
    },
  }),
  defineCommand({
    type: 'guest.admit',
    title: 'Admit a guest',
    says: 'Admit {guest}',
    about: 'From the green room into the show: from now on they may be seen and heard in it. With `seat`, into that seat too.',
    args: AdmitArgs,
    run: (desk, { guest, seat, anyway }, { frame }) => {
      const target = guestOf(desk, guest);
      const now = mustBeThere(desk, target, frame);
      if (seat !== undefined) {
        const place = desk.show.seats.find((s) => s.id === seat);
        if (!place) throw new CommandError('unknown-seat', `There is no seat "${seat}" in this show.`, 'seat');
        place.occupantId = target.sourceId;
      }
      now.state = 'admitted';
      now.hand = false;
      guardLoops(desk, anyway);
    },
  }),
  defineCommand({
    type: 'guest.hold',
    title: 'Back to the green room',
    says: 'Send {guest} back to the green room',
    about: 'They are neither seen nor heard in the show any more, and keep their seat: their card stands there.',
    args: GuestArg,
    hold: isAdmitted,
    run: (desk, { guest }, { frame }) => {
      const target = guestOf(desk, guest);
      const now = mustBeThere(desk, target, frame);
      if (now.state !== 'admitted') throw new CommandError('not-admitted', `${target.name} waits in the green room already.`, 'guest');
      now.state = 'waiting';
    },
  }),
  defineCommand({
    type: 'guest.showOut',
    title: 'Show a guest out',
    says: 'Show {guest} out',
    about: 'Ends their connection. Their link stays good: they can come back to the green room by it, until it is withdrawn.',
    args: GuestArg,
    hold: isAdmitted,
    run: (desk, { guest }, { frame }) => {
      const now = mustBeThere(desk, guestOf(desk, guest), frame);
      Object.assign(now, { state: 'away', lost: false, since: frame, hand: false, shares: false, note: '', trouble: '' });
    },
  }),
  defineCommand({
    type: 'guest.note',
    title: 'Write to a guest',
    says: 'Write to {guest}: {text}',
    about: 'What they read on their page, such as “You are next, after the clip”. Nobody else sees it.',
    args: NoteArgs,
    run: (desk, { guest, text }, { frame }) => {
      mustBeThere(desk, guestOf(desk, guest), frame).note = text;
    },
  }),
  defineCommand({
    type: 'guest.clock',
    title: 'Show a guest a clock',
    says: 'Show {guest} the clock {clock}',
    about: 'The clock that they see on their page.',
    args: ClockArgs,
    run: (desk, { guest, clock }, { frame }) => {
      guestOf(desk, guest);
      nowOf(desk, guest, frame).clockId = clock;
    },
  }),
  defineCommand({
    type: 'guest.order',
    title: 'Show a guest the running order',
    says: 'Running order for {guest}: {on}',
    about: 'What is on and what comes, with names and planned times, on their page. Notes of the crew are not in it.',
    args: OrderArgs,
    run: (desk, { guest, on }, { frame }) => {
      guestOf(desk, guest);
      nowOf(desk, guest, frame).seesOrder = on;
    },
  }),
  defineCommand({
    type: 'guest.hand',
    title: 'Take a raised hand down',
    about: 'Or raise it, for somebody who cannot.',
    args: HandArgs,
    run: (desk, { guest, hand }, { frame }) => {
      mustBeThere(desk, guestOf(desk, guest), frame).hand = hand;
    },
  }),
  defineCommand({
    type: 'guest.speaks',
    fromEngine: true,
    title: 'Report who speaks',
    about: 'The engine says who speaks now, of those who count in the gathered views.',
    args: GuestArg,
    run: (desk, { guest }, { frame }) => {
      guestOf(desk, guest);
      const { gathered } = desk.air.guests;
      if (gathered.speaker.now !== guest) gathered.speaker = { now: guest, before: gathered.speaker.now, since: frame };
    },
  }),
  defineCommand({
    type: 'guest.report',
    fromEngine: true,
    title: 'Report a guest',
    about: 'The engine says that somebody has come, has lost their line, has left, or what their page says of them.',
    args: ReportArgs,
    run: (desk, { guest, line, ...told }, { frame }) => {
      guestOf(desk, guest);
      const now = nowOf(desk, guest, frame);
      if (told.shares !== undefined && told.shares !== now.shares) now.sharesSince = frame;
      Object.assign(now, told);
      if (line === 'in') {
        // Somebody whose line was down comes back to where they were.
        if (now.state === 'away') Object.assign(now, { state: 'waiting', hand: false, shares: false, note: '' });
        Object.assign(now, { lost: false, since: frame });
      } else if (line === 'lost' && now.state !== 'away' && !now.lost) Object.assign(now, { lost: true, since: frame });
      else if (line === 'out') Object.assign(now, { state: 'away', lost: false, since: frame, hand: false, shares: false, trouble: '' });
    },
  }),
];
