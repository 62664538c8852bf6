import { describe, expect, it } from 'vitest';
import { midiEvent } from './midi-driver';

describe('MIDI messages', () => {
  it.each([
    ['a note pressed', [0x90, 60, 100], { kind: 'button', id: 'note-1-60', pressed: true }],
    ['a note let go, as note on of no velocity', [0x90, 60, 0], { kind: 'button', id: 'note-1-60', pressed: false }],
    ['a note let go on channel 3', [0x82, 60, 64], { kind: 'button', id: 'note-3-60', pressed: false }],
    ['a controller', [0xb0, 20, 127], { kind: 'value', id: 'cc-1-20', value: 127 }],
    ['the bend in its middle', [0xe0, 0, 64], { kind: 'lever', id: 'bend-1', value: 0 }],
    ['the bend at its top', [0xe0, 127, 127], { kind: 'lever', id: 'bend-1', value: 1 }],
    ['the bend at its bottom', [0xe0, 0, 0], { kind: 'lever', id: 'bend-1', value: -1 }],
  ])('%s', (_, data, event) => expect(midiEvent(data)).toEqual(event));

  it('that no control sends mean nothing', () => {
    expect([[0xf8], [0xc0, 5], []].map(midiEvent)).toEqual([null, null, null]);
  });
});
