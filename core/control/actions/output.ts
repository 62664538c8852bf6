/** Actions of the room Output. */
import { type Action } from '../action';
import { actionsOf } from '../make';

const room = actionsOf('output', 'Recordings');

export const OUTPUT_ACTIONS: readonly Action[] = [
  room.act('output.recordings', 'Go to the newest recording', 'Newest'),
  room.act('output.rename', 'Rename the recording', 'Rename'),
  room.act('output.play', 'Play the recording', 'Play'),
  room.act('output.save', 'Save the recording to a file', 'Save'),
];
