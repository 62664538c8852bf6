/** What keys, game pads, MIDI and jog wheels can do in Replay: commands with places for the chosen deck and clips. */

export interface ReplayAction {
  /** Stable name, for stored bindings. */
  id: string;
  does: string;
  /** A word or two, for the drawing of the keys. */
  short: string;
  /** Command; actions of the room itself have none. */
  type?: string;
  /** `$deck`, `$clips`, `$clip` and `$target` stand for the chosen deck, clips, the first of them, and the reel to copy to. */
  args?: Record<string, unknown>;
  group: 'Play' | 'Marks and clips' | 'List' | 'Air' | 'Room';
}

const deck = { deck: '$deck' };

const play: ReplayAction[] = [
  { id: 'toggle', does: 'Play or pause', short: 'Play', type: 'deck.toggle', args: deck, group: 'Play' },
  { id: 'pause', does: 'Pause', short: 'Pause', type: 'deck.pause', args: deck, group: 'Play' },
  {
    id: 'back',
    does: 'Shuttle backwards, faster with every press',
    short: '◀◀',
    type: 'deck.shuttleOn',
    args: { ...deck, direction: 'backwards' },
    group: 'Play',
  },
  {
    id: 'on',
    does: 'Shuttle forwards, faster with every press',
    short: '▶▶',
    type: 'deck.shuttleOn',
    args: { ...deck, direction: 'forwards' },
    group: 'Play',
  },
  { id: 'reverse', does: 'Play backwards at the deck’s speed', short: 'Reverse', type: 'deck.reverse', args: deck, group: 'Play' },
  { id: 'step-back', does: 'One frame back', short: '−1', type: 'deck.step', args: { ...deck, frames: -1 }, group: 'Play' },
  { id: 'step', does: 'One frame on', short: '+1', type: 'deck.step', args: { ...deck, frames: 1 }, group: 'Play' },
  { id: 'step-back-10', does: 'Ten frames back', short: '−10', type: 'deck.step', args: { ...deck, frames: -10 }, group: 'Play' },
  { id: 'step-10', does: 'Ten frames on', short: '+10', type: 'deck.step', args: { ...deck, frames: 10 }, group: 'Play' },
  { id: 'live', does: 'Jump to live', short: 'Live', type: 'deck.jump', args: { ...deck, to: 'live' }, group: 'Play' },
  { id: 'oldest', does: 'Jump to the oldest frame', short: 'Oldest', type: 'deck.jump', args: { ...deck, to: 'oldest' }, group: 'Play' },
  ...[25, 33, 50, 75, 100].map((speed): ReplayAction => ({
    id: `speed-${speed}`,
    does: `Speed ${speed} %`,
    short: `${speed} %`,
    type: 'deck.setSpeed',
    args: { ...deck, speed },
    group: 'Play',
  })),
  { id: 'slower', does: '5 % slower', short: '−5 %', type: 'deck.nudgeSpeed', args: { ...deck, by: -5 }, group: 'Play' },
  { id: 'faster', does: '5 % faster', short: '+5 %', type: 'deck.nudgeSpeed', args: { ...deck, by: 5 }, group: 'Play' },
  { id: 'slower-1', does: '1 % slower', short: '−1 %', type: 'deck.nudgeSpeed', args: { ...deck, by: -1 }, group: 'Play' },
  { id: 'faster-1', does: '1 % faster', short: '+1 %', type: 'deck.nudgeSpeed', args: { ...deck, by: 1 }, group: 'Play' },
  ...Array.from({ length: 8 }, (_, i): ReplayAction => ({
    id: `angle-${i + 1}`,
    does: `Angle ${i + 1}`,
    short: `Angle ${i + 1}`,
    type: 'deck.setAngleByNumber',
    args: { ...deck, number: i + 1 },
    group: 'Play',
  })),
  { id: 'other-deck', does: 'Work on the other deck', short: 'Deck', group: 'Room' },
  { id: 'gang', does: 'Gang the decks, or separate them', short: 'Gang', type: 'deck.gang', args: deck, group: 'Play' },
  { id: 'go-to', does: 'Type a timecode to go to', short: 'Go to', group: 'Room' },
];

const clips: ReplayAction[] = [
  { id: 'mark-in', does: 'Mark in', short: 'In', type: 'mark.in', args: deck, group: 'Marks and clips' },
  { id: 'mark-out', does: 'Mark out', short: 'Out', type: 'mark.out', args: deck, group: 'Marks and clips' },
  { id: 'to-in', does: 'Jump to the in mark', short: '→ In', type: 'deck.jump', args: { ...deck, to: 'in' }, group: 'Marks and clips' },
  { id: 'to-out', does: 'Jump to the out mark', short: '→ Out', type: 'deck.jump', args: { ...deck, to: 'out' }, group: 'Marks and clips' },
  { id: 'make-clip', does: 'Make a clip of the marks', short: 'Clip', type: 'clip.add', args: deck, group: 'Marks and clips' },
  { id: 'clear-marks', does: 'Clear the marks', short: 'No marks', type: 'mark.clear', args: {}, group: 'Marks and clips' },
  ...['first', 'second', 'third'].map((which, i): ReplayAction => ({
    id: `grab-${i + 1}`,
    does: `Grab the ${which} length`,
    short: `Grab ${i + 1}`,
    type: 'clip.grab',
    args: { ...deck, length: i + 1 },
    group: 'Marks and clips',
  })),
  {
    id: 'in-here',
    does: 'In point of the clip to the playhead',
    short: 'In here',
    type: 'clip.setEdge',
    args: { clip: '$clip', edge: 'in', ...deck },
    group: 'Marks and clips',
  },
  {
    id: 'out-here',
    does: 'Out point of the clip to the playhead',
    short: 'Out here',
    type: 'clip.setEdge',
    args: { clip: '$clip', edge: 'out', ...deck },
    group: 'Marks and clips',
  },
  ...(['in', 'out'] as const).flatMap((edge) =>
    [-10, -1, 1, 10].map((frames): ReplayAction => ({
      id: `${edge}${frames}`,
      does: `${edge === 'in' ? 'In' : 'Out'} point ${Math.abs(frames)} ${Math.abs(frames) === 1 ? 'frame' : 'frames'} ${frames < 0 ? 'earlier' : 'later'}`,
      short: `${edge === 'in' ? 'In' : 'Out'} ${frames > 0 ? '+' : '−'}${Math.abs(frames)}`,
      type: 'clip.nudge',
      args: { clip: '$clip', edge, frames },
      group: 'Marks and clips',
    })),
  ),
  {
    id: 'split',
    does: 'Split the clip at the playhead',
    short: 'Split',
    type: 'clip.split',
    args: { clip: '$clip', ...deck },
    group: 'Marks and clips',
  },
  { id: 'duplicate', does: 'Duplicate', short: 'Duplicate', type: 'clip.duplicate', args: { clips: '$clips' }, group: 'List' },
  { id: 'remove', does: 'Remove the clips', short: 'Remove', type: 'clip.remove', args: { clips: '$clips' }, group: 'List' },
  ...[0, 1, 2, 3, 4, 5].map((rating): ReplayAction => ({
    id: `rate-${rating}`,
    does: rating === 0 ? 'No rating' : `Rate ${rating}`,
    short: `${rating} ★`,
    type: 'clip.set',
    args: { clips: '$clips', rating },
    group: 'List',
  })),
  {
    id: 'copy',
    does: 'Copy the clips to the target reel',
    short: 'Copy',
    type: 'clip.copyToReel',
    args: { clips: '$clips', reel: '$target' },
    group: 'List',
  },
  {
    id: 'move',
    does: 'Move the clips to the target reel',
    short: 'Move',
    type: 'clip.moveToReel',
    args: { clips: '$clips', reel: '$target' },
    group: 'List',
  },
  { id: 'up', does: 'Clips one place up', short: 'Up', type: 'clip.shift', args: { clips: '$clips', by: -1 }, group: 'List' },
  { id: 'down', does: 'Clips one place down', short: 'Down', type: 'clip.shift', args: { clips: '$clips', by: 1 }, group: 'List' },
];

const room: ReplayAction[] = [
  { id: 'clip-before', does: 'Choose the clip before', short: '▲', group: 'List' },
  { id: 'clip-after', does: 'Choose the next clip', short: '▼', group: 'List' },
  { id: 'add-before', does: 'Choose the clip before too', short: '+▲', group: 'List' },
  { id: 'add-after', does: 'Choose the next clip too', short: '+▼', group: 'List' },
  { id: 'all', does: 'Choose all clips of the list', short: 'All', group: 'List' },
  { id: 'none', does: 'Choose none', short: 'None', group: 'List' },
  { id: 'search', does: 'Search the clips', short: 'Search', group: 'List' },
  { id: 'reel-before', does: 'The reel before', short: 'Reel −', group: 'List' },
  { id: 'reel-after', does: 'The next reel', short: 'Reel +', group: 'List' },
  { id: 'target', does: 'Next target reel for copies', short: 'Target', group: 'List' },
  { id: 'closer', does: 'Timeline closer', short: 'Closer', group: 'Room' },
  { id: 'wider', does: 'Timeline wider', short: 'Wider', group: 'Room' },
  { id: 'follow', does: 'Timeline follows, or stays', short: 'Follow', group: 'Room' },
  { id: 'jog-panel', does: 'Jog panel on screen', short: 'Jog', group: 'Room' },
];

const air: ReplayAction[] = [
  {
    id: 'cue',
    does: 'Stand the clips on the deck',
    short: 'Cue',
    type: 'roll.start',
    args: { ...deck, clips: '$clips', paused: true },
    group: 'Air',
  },
  {
    id: 'roll',
    does: 'Play the clips on the deck',
    short: 'Play clips',
    type: 'roll.start',
    args: { ...deck, clips: '$clips' },
    group: 'Air',
  },
  { id: 'roll-reel', does: 'Play the reel on the deck', short: 'Play reel', type: 'roll.start', args: deck, group: 'Air' },
  {
    id: 'to-air',
    does: 'Roll the clips to air, and back',
    short: 'To air',
    type: 'roll.toAir',
    args: { ...deck, clips: '$clips' },
    group: 'Air',
  },
  { id: 'reel-to-air', does: 'Roll the reel to air, and back', short: 'Reel to air', type: 'roll.toAir', args: deck, group: 'Air' },
  { id: 'again', does: 'Play out from the beginning', short: 'Again', type: 'roll.again', args: deck, group: 'Air' },
  { id: 'next', does: 'Next piece of the play-out', short: 'Next', type: 'roll.next', args: deck, group: 'Air' },
  { id: 'previous', does: 'Previous piece of the play-out', short: 'Previous', type: 'roll.previous', args: deck, group: 'Air' },
  {
    id: 'look-back',
    does: 'Look back on air; again starts it again',
    short: 'Look back',
    type: 'replay.lookBack',
    args: deck,
    group: 'Air',
  },
  { id: 'return', does: 'Back to what was on air', short: 'Return', type: 'replay.backToLive', args: {}, group: 'Air' },
  { id: 'take', does: 'Take Next to air', short: 'Take', type: 'picture.take', args: {}, group: 'Air' },
  { id: 'record', does: 'Record the angles', short: 'Record', type: 'replay.start', args: {}, group: 'Air' },
  { id: 'undo', does: 'Undo', short: 'Undo', type: 'history.undo', args: {}, group: 'List' },
  { id: 'redo', does: 'Redo', short: 'Redo', type: 'history.redo', args: {}, group: 'List' },
];

/** Every action, in the order of lists. */
export const REPLAY_ACTIONS: readonly ReplayAction[] = [...play, ...clips, ...room, ...air];

const byId = new Map(REPLAY_ACTIONS.map((a) => [a.id, a]));

export const findAction = (id: string): ReplayAction | undefined => byId.get(id);

export interface Chosen {
  deck: 1 | 2;
  clips: readonly string[];
  target: string;
}

/** The arguments with the chosen deck and clips put in; null when the action needs a clip and none is chosen. */
export function argsFor({ args = {} }: ReplayAction, { deck: number, clips: chosen, target }: Chosen): Record<string, unknown> | null {
  const values: Record<string, unknown> = { $deck: number, $clips: [...chosen], $clip: chosen[0], $target: target };
  const wantsClip = Object.values(args).some((v) => v === '$clips' || v === '$clip');
  if (wantsClip && chosen.length === 0) return null;
  return Object.fromEntries(
    Object.entries(args).map(([name, value]) => [name, typeof value === 'string' && value.startsWith('$') ? values[value] : value]),
  );
}
