/** Lamps of MIDI controllers, on a controller that is not there. */
import { afterEach, describe, expect, it, vi } from 'vitest';
import { midiDriver, midiLamp } from './midi-driver';

afterEach(() => vi.unstubAllGlobals());

/** A browser with one controller. */
function plugIn() {
  const sent: number[][] = [];
  const input: { name: string; onmidimessage: unknown } = { name: 'Pads', onmidimessage: null };
  const access = {
    inputs: new Map([['in', input]]),
    outputs: new Map([['out', { send: (data: number[]) => void sent.push(data) }]]),
    onstatechange: null,
  };
  vi.stubGlobal('navigator', { requestMIDIAccess: () => Promise.resolve(access) });
  return { sent, access };
}

describe('lamps of MIDI controllers', () => {
  it('are lit by the message of their own key', () => {
    expect(midiLamp('note-1-60', true)).toEqual([0x90, 60, 127]);
    expect(midiLamp('note-16-0', false)).toEqual([0x9f, 0, 0]);
    expect(midiLamp('cc-2-20', true)).toEqual([0xb1, 20, 127]);
    for (const none of ['bend-1', 'note-17-1', 'note-0-1', 'cc-1-200', 'constructor']) expect(midiLamp(none, true)).toBeNull();
  });

  it('are sent to every controller that is connected, and to none before', async () => {
    const { sent } = plugIn();
    expect(midiDriver.light?.('note-1-60', true)).toBe(false);
    const states: string[] = [];
    const end = midiDriver.open(
      () => undefined,
      (words) => states.push(words),
    );
    await Promise.resolve();
    await Promise.resolve();
    expect(states).toEqual(['Pads']);
    expect(midiDriver.light?.('note-1-60', true)).toBe(true);
    expect(sent).toEqual([[0x90, 60, 127]]);
    end();
    expect(midiDriver.light?.('note-1-60', false)).toBe(false);
    expect(sent).toHaveLength(1);
  });

  it('that are pulled out this moment do no harm', async () => {
    const { access } = plugIn();
    access.outputs.set('out', {
      send: () => {
        throw new DOMException('gone', 'InvalidStateError');
      },
    });
    const end = midiDriver.open(
      () => undefined,
      () => undefined,
    );
    await Promise.resolve();
    await Promise.resolve();
    expect(midiDriver.light?.('note-1-60', true)).toBe(false);
    end();
  });
});
