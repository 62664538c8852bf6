/** Keys of the Desk, as data: each one is a command. `code` is the place on the keyboard, so that layouts agree. */
import { LANE_COUNT } from '#core/picture/document';

export interface KeyBinding {
  code: string;
  shift?: boolean;
  ctrl?: boolean;
  alt?: boolean;
  /** Must be held for a moment. */
  hold?: boolean;
  type: string;
  args?: Record<string, unknown>;
  /** What it does, for the sheet of keys. */
  does: string;
  group: 'Picture' | 'Lanes' | 'Replay' | 'Sound' | 'Output' | 'Show';
}

const LANE_KEYS = ['KeyQ', 'KeyW', 'KeyE', 'KeyR'];

const digits = Array.from({ length: 10 }, (_, i): [string, number] => [`Digit${(i + 1) % 10}`, i + 1]);

export const DESK_KEYS: readonly KeyBinding[] = [
  { code: 'Space', type: 'picture.take', does: 'Take', group: 'Picture' },
  { code: 'KeyX', type: 'picture.cut', does: 'Cut to Next', group: 'Picture' },
  ...digits.map(([code, number]): KeyBinding => ({
    code,
    type: 'picture.setNextByNumber',
    args: { number },
    does: `Number ${number} to Next`,
    group: 'Picture',
  })),
  ...digits.map(([code, number]): KeyBinding => ({
    code,
    shift: true,
    type: 'picture.cutByNumber',
    args: { number },
    does: `Number ${number} straight to air`,
    group: 'Picture',
  })),
  { code: 'KeyD', type: 'picture.arm', args: { kind: 'dissolve' }, does: 'Arm dissolve', group: 'Picture' },
  { code: 'KeyF', type: 'transition.armFavourite', args: { place: 1 }, does: 'Arm the first favourite', group: 'Picture' },
  { code: 'KeyG', type: 'transition.armFavourite', args: { place: 2 }, does: 'Arm the second favourite', group: 'Picture' },
  { code: 'KeyH', type: 'picture.arm', args: { kind: 'glide', easing: 'in-out' }, does: 'Arm glide', group: 'Picture' },
  { code: 'KeyB', shift: true, hold: true, type: 'picture.fadeToBlack', does: 'Fade to black, or back (hold)', group: 'Picture' },
  ...LANE_KEYS.slice(0, LANE_COUNT).map((code, i): KeyBinding => ({
    code,
    type: 'lane.toggle',
    args: { lane: `lane-${i + 1}` },
    does: `Lane ${i + 1} in or out`,
    group: 'Lanes',
  })),
  ...LANE_KEYS.slice(0, LANE_COUNT).map((code, i): KeyBinding => ({
    code,
    shift: true,
    type: 'lane.arm',
    args: { lane: `lane-${i + 1}` },
    does: `Lane ${i + 1} with the next take`,
    group: 'Lanes',
  })),
  { code: 'KeyV', type: 'replay.lookBack', args: { deck: 1 }, does: 'Look back; again starts it again', group: 'Replay' },
  { code: 'KeyV', shift: true, type: 'replay.backToLive', does: 'Back to what was on air', group: 'Replay' },
  { code: 'KeyT', type: 'clip.grab', args: { deck: 1, length: 1 }, does: 'Grab the last seconds', group: 'Replay' },
  { code: 'KeyR', alt: true, type: 'output.startRecording', does: 'Start recording', group: 'Output' },
  { code: 'KeyR', alt: true, shift: true, hold: true, type: 'output.stopRecording', does: 'Stop recording (hold)', group: 'Output' },
  { code: 'KeyL', alt: true, type: 'output.startStream', does: 'Start streaming', group: 'Output' },
  { code: 'KeyL', alt: true, shift: true, hold: true, type: 'output.stopStream', does: 'Stop streaming (hold)', group: 'Output' },
  { code: 'KeyZ', ctrl: true, type: 'history.undo', does: 'Undo an edit', group: 'Show' },
  { code: 'KeyZ', ctrl: true, shift: true, type: 'history.redo', does: 'Redo', group: 'Show' },
];

/** Keys of the room Layouts, for its sheet; they work on the chosen boxes. */
export const LAYOUT_KEYS: readonly (readonly [string, string])[] = [
  ['N', 'Choose the next box; with Shift the one before'],
  ['Ctrl A', 'Choose all boxes that are not locked'],
  ['Escape', 'Choose none'],
  ['Arrows', 'Nudge by 1 pixel, with Shift by 10'],
  ['C', 'Crop and pan with the handles, on and off'],
  ['Ctrl C', 'Copy geometry'],
  ['Ctrl V', 'Paste geometry onto the chosen boxes, in any layout'],
  ['Ctrl D', 'Duplicate'],
  ['Delete', 'Remove'],
  ['Alt 1 … 9', 'Apply the style in that place of the list'],
  ['Alt while dragging', 'Do not snap'],
  ['Shift while dragging', 'Keep proportions; turn by steps of 15°'],
  ['Wheel on a box', 'Zoom inside the box'],
  ['Ctrl Z', 'Undo; with Shift redo'],
];

/** "Shift 3", "Space": the binding as people say it. */
export function keyName({ code, shift, ctrl, alt }: KeyBinding): string {
  const key = code.replace(/^(Key|Digit)/, '');
  return [ctrl && 'Ctrl', alt && 'Alt', shift && 'Shift', key].filter(Boolean).join(' ');
}

/** The binding that an event means, if any. */
export function bindingFor(event: Pick<KeyboardEvent, 'code' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'altKey'>): KeyBinding | undefined {
  const ctrl = event.ctrlKey || event.metaKey;
  return DESK_KEYS.find(
    (k) =>
      k.code === event.code && (k.shift ?? false) === event.shiftKey && (k.ctrl ?? false) === ctrl && (k.alt ?? false) === event.altKey,
  );
}
