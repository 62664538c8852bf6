/** Actions that mean the same in every room. */
import { command, type Action } from '../action';
import { actionsOf, number, word } from '../make';
import { ROOM_IDS, ROOMS } from '../rooms';

const rooms = actionsOf('all', 'Rooms');
const output = actionsOf('all', 'Output');
const show = actionsOf('all', 'Show');
const talk = actionsOf('all', 'Talk');

const TALK = {
  guests: ['Talk to the guests while it is held', 'Talk'],
  room: ['Talk to the people in the room while it is held', 'Talk room'],
  one: ['Talk to the one marked under Listeners while it is held', 'Talk one'],
} as const;

const CREW = {
  all: ['Talk to the whole crew while it is held', 'Crew'],
  one: ['Talk to one of the crew while it is held: the chosen one, or who spoke last', 'Crew one'],
} as const;

export const EVERYWHERE_ACTIONS: readonly Action[] = [
  rooms.act('go', 'Go to {room}', '{room}', {
    params: [word('room', 'Room', ROOM_IDS, Object.fromEntries(ROOM_IDS.map((id) => [id, ROOMS[id].name])))],
    lit: ({ chosen }, { room }) => chosen.room === room,
  }),
  rooms.act('region.next', 'Next part of the room', 'Part'),
  rooms.act('region.before', 'Part of the room before', 'Part before'),
  rooms.act('region', 'Part {number} of the room', 'Part {number}', { params: [number('number', 'Part, in reading order', 1, 9)] }),
  rooms.act('finder', 'Find anything by its name', 'Find'),
  rooms.act('keys', 'Keys of this room', 'Keys'),
  rooms.act('notices', 'What was said lately', 'Notices'),
  output.press(
    'output.record',
    'Start recording; held, stop it',
    'Record',
    ({ desk }) => (desk.air.recording === null ? command('output.startRecording') : command('output.stopRecording')),
    { lit: ({ desk }) => desk.air.recording !== null },
  ),
  output.press('output.stopRecording', 'Stop recording (hold)', 'Stop rec', () => command('output.stopRecording')),
  output.press(
    'output.stream',
    'Start streaming; held, stop it',
    'Stream',
    ({ desk }) => (desk.air.stream === null ? command('output.startStream') : command('output.stopStream')),
    { lit: ({ desk }) => desk.air.stream !== null },
  ),
  output.press('output.stopStream', 'Stop streaming (hold)', 'Stop str', () => command('output.stopStream')),
  output.act('window.programme', 'Programme in a window of its own', 'Window'),
  output.act('window.clean', 'Clean programme in a window of its own', 'Clean'),
  show.press('history.undo', 'Undo an edit', 'Undo', () => command('history.undo')),
  show.press('history.redo', 'Redo', 'Redo', () => command('history.redo')),
  show.act('parts.open', 'Save parts of the show, or bring parts of another in', 'Parts'),
  ...(['guests', 'room', 'one'] as const).map((to) =>
    talk.act(`talk.${to}`, TALK[to][0], TALK[to][1], {
      release: () => ({ kind: 'act', id: 'talk.end', args: {} }),
      lit: ({ desk }) => desk.air.sound.talkback !== null,
    }),
  ),
  ...(['all', 'one'] as const).map((to) =>
    talk.act(`crew.${to}`, CREW[to][0], CREW[to][1], { release: () => ({ kind: 'act', id: 'crew.end', args: {} }) }),
  ),
  talk.act('crew.listen', 'Hear the show at this panel, or end it', 'Listen'),
];
