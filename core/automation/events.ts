/** Everything that can happen, for triggers and their conditions: each event as a state that begins with it. Pure. */
import { type Desk } from '../desk/air';
import { nameOf } from '../desk/entities';
import { lastHeard } from '../devices/heard';
import { picturesWithin } from '../desk/pictures';
import { type Show } from '../desk/show';
import { formatClock, readClock, timeOfDay } from '../graphics/clocks';
import { playerState } from '../media/player';
import { laneIsUp } from '../picture/air';
import { rollPlace } from '../replay/roll';
import { type RefTarget } from '../schema/kinds';
import { cellOf } from '../sheets/row';
import { rowKeys } from '../sheets/rows';
import { type When, type WhenEvent } from './document';
import { wasTold } from './told';

interface EventTraits {
  /** What happens, as it is chosen. */
  words: string;
  /** How its state reads as a condition; events without are no conditions. */
  state?: string;
  /** The field that says which thing it is about, and what may stand there. */
  of?: { field: keyof When; to: RefTarget };
  /** It comes by time, so it is known beforehand. */
  timed?: true;
  /**
   * Whether what it begins is so at a frame; null while that cannot be told. Events that are over as soon as they come give the number of the last
   * one instead, 0 for none.
   */
  isSo: (desk: Desk, when: When, frame: number) => boolean | number | null;
}

/** Seconds after a time of day for which it still counts as having come. */
const TIME_COUNTS = 60;

const clockIn = ({ show }: Desk, { clockId }: When) => show.graphics.clocks.find((c) => c.id === clockId);
const laneIn = ({ air }: Desk, { laneId }: When) => (laneId === null ? undefined : air.lanes[laneId]);
const isOnAir = ({ show, air }: Desk, { pictureId }: When) =>
  pictureId === null ? null : picturesWithin(show, air.onAirId).has(pictureId);
const runs = ({ air }: Desk, { macroId }: When) =>
  macroId === null ? null : Object.values(air.automation.runs).some((r) => r.macroId === macroId);
/** Those whom an event is about: one, or all of them. */
const guestsOf = ({ air }: Desk, { guestId }: When) =>
  Object.entries(air.guests.now).flatMap(([id, now]) => (guestId === null || id === guestId ? [now] : []));
/** The other way round; what cannot be told stays so. */
const not = (so: boolean | null): boolean | null => (so === null ? null : !so);

export const EVENTS: Record<WhenEvent, EventTraits> = {
  'clock-ends': {
    words: 'a clock ends',
    state: 'a clock is over',
    of: { field: 'clockId', to: 'clock' },
    timed: true,
    isSo: (desk, when, frame) => {
      const clock = clockIn(desk, when);
      if (!clock || clock.kind === 'day' || clock.kind === 'up') return null;
      return readClock(clock, desk.air.graphics, frame, desk.show.rate).over;
    },
  },
  'clock-passes': {
    words: 'a clock passes a time',
    state: 'a clock has passed a time',
    of: { field: 'clockId', to: 'clock' },
    timed: true,
    isSo: (desk, when, frame) => {
      const clock = clockIn(desk, when);
      if (!clock || when.seconds === null) return null;
      const { seconds, down } = readClock(clock, desk.air.graphics, frame, desk.show.rate);
      if (seconds === null) return null;
      return down ? seconds <= when.seconds : seconds >= when.seconds;
    },
  },
  'on-air': {
    words: 'a picture comes on air',
    state: 'a picture is on air',
    of: { field: 'pictureId', to: 'picture' },
    isSo: isOnAir,
  },
  'off-air': {
    words: 'a picture goes off air',
    of: { field: 'pictureId', to: 'picture' },
    isSo: (desk, when) => not(isOnAir(desk, when)),
  },
  next: {
    words: 'a picture is put into Next',
    state: 'a picture is in Next',
    of: { field: 'pictureId', to: 'picture' },
    isSo: ({ air }, { pictureId }) => (pictureId === null ? null : air.nextId === pictureId),
  },
  'lane-up': {
    words: 'a lane goes up',
    state: 'a lane is up',
    of: { field: 'laneId', to: 'lane' },
    isSo: (desk, when, frame) => {
      const lane = laneIn(desk, when);
      return lane ? laneIsUp(lane, frame) : null;
    },
  },
  'lane-down': {
    words: 'a lane goes down',
    of: { field: 'laneId', to: 'lane' },
    isSo: (desk, when, frame) => {
      const lane = laneIn(desk, when);
      return lane ? !laneIsUp(lane, frame) : null;
    },
  },
  'media-ends': {
    words: 'media has played',
    of: { field: 'sourceId', to: 'source' },
    timed: true,
    isSo: ({ show, air }, { sourceId }, frame) => {
      const source = show.sources.find((s) => s.id === sourceId);
      if (source?.settings.kind !== 'media' || !air.players[source.id]) return null;
      return playerState(air, source.id, source.settings, frame, show.rate).ended;
    },
  },
  'roll-ends': {
    words: 'a play-out ends',
    timed: true,
    isSo: ({ air }, { deck }, frame) => {
      const { roll, motion } = air.replay.decks[deck ?? 1];
      if (!roll || motion.kind === 'live') return null;
      return rollPlace(roll, motion.position, motion.kind === 'play' ? Math.max(0, frame - motion.start) : 0).ended;
    },
  },
  'recording-starts': {
    words: 'recording starts',
    state: 'it is recorded',
    isSo: ({ air }) => air.recording !== null,
  },
  'recording-stops': {
    words: 'recording stops',
    isSo: ({ air }) => air.recording === null,
  },
  'stream-starts': {
    words: 'the stream starts',
    state: 'it is streamed',
    isSo: ({ air }) => air.stream !== null,
  },
  'stream-stops': {
    words: 'the stream stops',
    isSo: ({ air }) => air.stream === null,
  },
  'recording-fails': {
    words: 'a recording fails',
    state: 'a recording has failed',
    isSo: wasTold,
  },
  'stream-fails': {
    words: 'the stream fails',
    state: 'the stream does not get through',
    isSo: wasTold,
  },
  'level-over': {
    words: 'a level goes over',
    state: 'a level is over',
    of: { field: 'channelId', to: 'channel-or-bus' },
    isSo: wasTold,
  },
  'level-under': {
    words: 'a level stays under',
    state: 'a level is under',
    of: { field: 'channelId', to: 'channel-or-bus' },
    isSo: (desk, when) => not(wasTold(desk, when)),
  },
  'source-lost': {
    words: 'a source is lost',
    state: 'a source is lost',
    of: { field: 'sourceId', to: 'source' },
    isSo: ({ air }, { sourceId }) => (sourceId === null ? null : Object.hasOwn(air.lost, sourceId)),
  },
  'cell-is': {
    words: 'a cell of a sheet says',
    state: 'a cell of a sheet says',
    of: { field: 'sheetId', to: 'sheet' },
    isSo: ({ show }, { sheetId, row, column, value }) => {
      const sheet = show.sheets.find((s) => s.id === sheetId);
      if (!sheet) return null;
      const at = sheet.columns.indexOf(column);
      const place = rowKeys(sheet).places.get(row) ?? Number(row) - 1;
      const line = sheet.rows[place];
      return at === -1 || line === undefined ? null : cellOf(line, at) === value;
    },
  },
  'macro-starts': {
    words: 'a macro starts',
    state: 'a macro runs',
    of: { field: 'macroId', to: 'macro' },
    isSo: runs,
  },
  'macro-ends': {
    words: 'a macro has run',
    of: { field: 'macroId', to: 'macro' },
    isSo: (desk, when) => not(runs(desk, when)),
  },
  'device-says': {
    words: 'a device says something',
    of: { field: 'deviceId', to: 'device' },
    isSo: ({ air }, { deviceId, value }) => (deviceId === null ? null : lastHeard(air.devices.heard, deviceId, value)),
  },
  'guest-comes': {
    words: 'a guest comes',
    state: 'a guest is here',
    of: { field: 'guestId', to: 'guest' },
    isSo: (desk, when) => guestsOf(desk, when).some((g) => g.state !== 'away' && !g.lost),
  },
  'guest-leaves': {
    words: 'a guest leaves, or their line breaks',
    of: { field: 'guestId', to: 'guest' },
    isSo: (desk, when) => guestsOf(desk, when).every((g) => g.state === 'away' || g.lost),
  },
  'hand-goes-up': {
    words: 'a guest raises a hand',
    state: 'a guest has a hand up',
    of: { field: 'guestId', to: 'guest' },
    isSo: (desk, when) => guestsOf(desk, when).some((g) => g.hand),
  },
  time: {
    words: 'it is this time of day',
    timed: true,
    isSo: ({ show, air }, { seconds }, frame) => {
      const now = timeOfDay(air.graphics.day, frame, show.rate);
      if (now === null || seconds === null) return null;
      const since = (((now - seconds) % 86_400) + 86_400) % 86_400;
      return since < TIME_COUNTS;
    },
  },
  opens: {
    words: 'the show opens',
    isSo: () => true,
  },
};

/** Whether what an event begins is so at a frame. */
export const isSo = (desk: Desk, when: When, frame: number): boolean | number | null => EVENTS[when.event].isSo(desk, when, frame);

/** An event in words: "a clock ends: Heat clock". */
export function whenWords(show: Show, when: When): string {
  const { words, of } = EVENTS[when.event];
  const id = of ? when[of.field] : null;
  const thing = of ? (typeof id === 'string' ? nameOf(show, of.to, id) : '?') : '';
  if (when.event === 'cell-is') return `${thing}: ${when.column} of ${when.row || '?'} says “${when.value}”`;
  if (when.event === 'level-over' || when.event === 'level-under') return `${words}: ${thing} ${when.db ?? '?'} dB`;
  if (when.event === 'device-says') return `${thing} says ${when.value === '' ? 'anything' : `“${when.value}”`}`;
  if (when.event === 'time') return `it is ${when.seconds === null ? '?' : formatClock(when.seconds, 'h:mm:ss', false, show.rate)}`;
  const more =
    when.event === 'clock-passes' ? ` (${when.seconds ?? '?'} s)` : when.event === 'roll-ends' ? ` (deck ${when.deck ?? 1})` : '';
  return `${words}${thing ? `: ${thing}` : ''}${more}`;
}
