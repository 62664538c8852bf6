/** The sound desk as a document: faders, groups, seats, files, reports. */
import { fixture } from '#tests/support/fixtures';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { readWav } from '#tests/support/wav';
import { type Desk } from '../desk/air';
import { readShow } from '../desk/migrate';
import { showProblems } from '../desk/validate';
import { channelsOf } from './channels';
import { FADER_FLOOR_DB, FADER_TOP_DB, faderDbAt, faderPlace } from './level';
import { SILENT_READING } from './loudness/loudness-meter';
import { loudnessCsv, verdict } from './loudness/report';
import { planSound } from './plan';
import { exportRouting, importRouting, RoutingError } from './routing-file';
import { packSamples, wavHead } from './wav';

describe('the travel of a fader', () => {
  it('goes from silence to the top, always rising, and there and back', () => {
    expect([faderPlace(FADER_FLOOR_DB), faderPlace(FADER_TOP_DB)]).toEqual([0, 1]);
    fc.assert(
      fc.property(fc.double({ min: FADER_FLOOR_DB, max: FADER_TOP_DB, noNaN: true }), (db) => {
        expect(faderDbAt(faderPlace(db))).toBeCloseTo(db, 1);
        expect(faderPlace(Math.min(FADER_TOP_DB, db + 1))).toBeGreaterThanOrEqual(faderPlace(db));
      }),
    );
  });

  it('gives the upper half of the way to where people work', () => {
    expect(faderPlace(-12)).toBeGreaterThan(0.5);
    expect(faderPlace(0)).toBeLessThan(0.85);
  });
});

const gain = (desk: Desk, id: string, frame = 0) => planSound(desk.show, desk.air, frame).channels[id];

describe('channels', () => {
  it('are added for microphones, seats and tones, and removed with all that named them', () => {
    let desk = must(sampleDesk(), 'sound.addChannel', {
      name: 'Mic',
      feed: { kind: 'device', deviceId: 'd', deviceLabel: 'D', first: 1, stereo: false },
    });
    const id = desk.show.sound.inputs[0]?.id ?? '';
    desk = must(desk, 'listener.add', { name: 'Guest', kind: 'guest', ownIds: [id] });
    desk = must(desk, 'sound.setSend', { from: id, bus: 'programme', levelDb: -3 });
    desk = must(desk, 'talkback.set', { channel: id });
    desk = must(desk, 'sound.solo', { channel: id });
    const gone = must(desk, 'sound.removeChannel', { channel: id });
    expect(gone.show.sound).toMatchObject({ inputs: [], sends: [], talkbackId: null });
    expect(gone.air.sound.solos).toEqual([]);
    // The guest was nobody but this channel: they have left, and their mix with them.
    expect(gone.show.sound.listeners.map((l) => l.name)).toEqual(['Stream', 'Recording']);
    expect(gone.show.sound.buses).toHaveLength(1);
    expect(showProblems(JSON.parse(JSON.stringify(gone.show)))).toEqual([]);
  });

  it('are refused in words when they name what is not there', () => {
    const code = (type: string, args: Record<string, unknown>) => {
      const outcome = attempt(sampleDesk(), type, args);
      return outcome.ok ? 'done' : outcome.error.code;
    };
    expect(code('sound.addChannel', { name: 'x', feed: { kind: 'seat', seatId: 'nobody' } })).toBe('unknown-seat');
    expect(code('sound.setFader', { channel: 'bug', db: 0 })).toBe('no-sound');
    expect(code('sound.setFader', { channel: 'foghorn', db: 0 })).toBe('unknown-channel');
    expect(code('sound.removeChannel', { channel: 'a' })).toBe('source-channel');
    expect(code('sound.removeBus', { bus: 'programme' })).toBe('programme-stays');
    expect(code('listener.set', { listener: 'stream', talkback: true })).toBe('on-air');
    expect(code('talkback.start', {})).toBe('no-microphone');
    expect(code('sound.setSend', { from: 'programme', bus: 'programme' })).toBe('itself');
  });

  it('in a group go up and down with it, and are silent with it', () => {
    let desk = must(sampleDesk(), 'sound.addGroup', { name: 'Cameras' });
    const group = desk.show.sound.groups[0]?.id;
    desk = must(desk, 'sound.setChannel', { channels: ['a', 'b'], groupId: group, follows: false, faderDb: -6 });
    desk = must(desk, 'sound.setGroup', { faderGroup: group, faderDb: -14 });
    expect(20 * Math.log10(gain(desk, 'a') ?? 0)).toBeCloseTo(-20, 6);
    expect(gain(must(desk, 'sound.setGroup', { faderGroup: group, muted: true }), 'b')).toBe(0);
    const gone = must(desk, 'sound.removeGroup', { faderGroup: group });
    expect(gone.show.sources[0]?.sound.groupId).toBeNull();
    expect(20 * Math.log10(gain(gone, 'a') ?? 0)).toBeCloseTo(-6, 6);
  });

  it('of a seat sound as whoever sits there, in place of their own, while it is on air', () => {
    let desk = must(sampleDesk(), 'seat.add', { name: 'Host' });
    const seat = desk.show.seats[0]?.id;
    desk = must(desk, 'seat.fill', { seat, occupant: 'a' });
    desk = must(desk, 'sound.addChannel', { name: 'Host', feed: { kind: 'seat', seatId: seat } });
    const channel = desk.show.sound.inputs[0]?.id ?? '';
    expect([gain(desk, 'a'), gain(desk, channel)]).toEqual([0, 1]);
    const moved = must(desk, 'seat.fill', { seat, occupant: 'b' });
    expect([gain(moved, 'a'), gain(moved, channel)]).toEqual([1, 0]);
    const empty = must(desk, 'seat.fill', { seat, occupant: null });
    expect([gain(empty, 'a'), gain(empty, channel)]).toEqual([1, 0]);
    expect(channelsOf(must(desk, 'seat.remove', { seat }).show).some((c) => c.id === channel)).toBe(false);
  });

  it('with fades of their own aim at once, and say how long it takes', () => {
    let desk = must(sampleDesk(), 'sound.setChannel', { channels: ['a', 'b'], inFrames: 10, outFrames: 50 });
    desk = must(desk, 'picture.take', {}, 0);
    const { gains } = planSound(desk.show, desk.air, 1);
    expect(gains.b).toMatchObject({ after: 1, seconds: 0.4 });
    expect(gains.a).toMatchObject({ after: 0, seconds: 2 });
  });

  it('take a preset over, and nothing else', () => {
    let desk = must(sampleDesk(), 'sound.setCompressor', { channel: 'a', on: true, ratio: 7 });
    desk = must(desk, 'sound.setBand', { channel: 'a', band: 2, gainDb: -4, hz: 350 });
    desk = must(desk, 'sound.storePreset', { channel: 'a', name: 'Mine' });
    desk = must(desk, 'sound.setFader', { channel: 'b', db: -9 });
    desk = must(desk, 'sound.applyPreset', { stripPreset: desk.show.sound.presets.at(-1)?.id, channels: ['b'] });
    expect(desk.show.sources[1]?.sound).toMatchObject({ faderDb: -9, compressor: { on: true, ratio: 7 }, eq: { on: true } });
    expect(desk.show.sources[1]?.sound.eq.bands[1]).toMatchObject({ gainDb: -4, hz: 350 });
    // A copy: turning one knob later does not turn the other's.
    const turned = must(desk, 'sound.setCompressor', { channel: 'a', ratio: 2 });
    expect(turned.show.sources[1]?.sound.compressor.ratio).toBe(7);
  });
});

describe('a bus that howled', () => {
  it('is held down until it is released', () => {
    let desk = must(sampleDesk(), 'sound.hold', { bus: 'programme', db: 24, hz: 400 });
    expect(20 * Math.log10(planSound(desk.show, desk.air, 0).buses.programme ?? 0)).toBeCloseTo(-24, 6);
    desk = must(desk, 'sound.release', { bus: 'programme' });
    expect(planSound(desk.show, desk.air, 0).buses.programme).toBe(1);
    expect(attempt(desk, 'sound.release', { bus: 'programme' })).toMatchObject({ ok: false, error: { code: 'not-held' } });
  });
});

describe('a show of the version before', () => {
  it('keeps its faders, and its programme as the first bus', () => {
    // Made by the Bivoca of then.
    const { show: old } = fixture(3);
    old.programme = { ...(old.programme as object), faderDb: -4, ceilingDb: -3 };
    old.sources = (old.sources as object[]).map((s) => ({ ...s, sound: { faderDb: -7, muted: true, follows: true } }));
    const read = readShow(old);
    expect(read.sound.buses[0]).toMatchObject({ id: 'programme', faderDb: -4, ceilingDb: -3 });
    expect(read.sources[0]?.sound).toMatchObject({ faderDb: -7, muted: true, follows: true, pan: 0, eq: { on: false } });
  });
});

describe('routing files', () => {
  const made = () => {
    let desk = must(sampleDesk(), 'listener.add', { name: 'Analyst', kind: 'guest', ownIds: ['a'] });
    desk = must(desk, 'sound.setSend', { from: 'b', bus: desk.show.sound.buses[1]?.id, on: false });
    return must(desk, 'sound.plug', { bus: desk.show.sound.buses[1]?.id, to: { deviceId: 'x1', deviceLabel: 'Quay desk', pair: 2 } });
  };

  it('carry sends, listeners and patches by name into another show, and make its buses', () => {
    const file = JSON.parse(JSON.stringify(exportRouting(made().show))) as unknown;
    const other = sampleDesk();
    const desk = must(other, 'sound.importRouting', { routing: file, devices: [{ deviceId: 'y9', label: 'Quay desk' }] });
    const bus = desk.show.sound.buses.find((b) => b.name === 'Analyst')?.id;
    expect(desk.show.sound.sends).toEqual([{ fromId: 'b', busId: bus, on: false, levelDb: 0, tap: 'after' }]);
    expect(desk.show.sound.listeners.at(-1)).toMatchObject({ name: 'Analyst', busId: bus, ownIds: ['a'] });
    // The device is found again by its label.
    expect(desk.show.sound.patches[0]).toMatchObject({ busId: bus, to: { deviceId: 'y9', pair: 2 } });
    expect(showProblems(JSON.parse(JSON.stringify(desk.show)))).toEqual([]);
  });

  it('keeps two channels of one name apart, and a channel that is called like a bus', () => {
    let desk = sampleDesk();
    for (const source of ['a', 'b']) desk = must(desk, 'source.edit', { source, name: 'Mic' });
    desk = must(desk, 'source.edit', { source: 'c', name: 'Programme' });
    const sends = ['a', 'b', 'c'].map((fromId, i) => ({ fromId, busId: 'programme', on: i !== 1, levelDb: -i, tap: 'after' as const }));
    const show = { ...desk.show, sound: { ...desk.show.sound, sends } };
    const file = exportRouting(show);
    expect(file.sends.map((s) => s.from)).toEqual(['Mic', 'Mic (2)', 'Programme (2)']);
    let ids = 0;
    expect(importRouting(show, file, [], () => `n${(ids += 1)}`).sends).toEqual(sends);
  });

  it('are refused with every unknown name and its place, and change nothing', () => {
    const file = { ...exportRouting(made().show), sends: [{ from: 'Foghorn', bus: 'Analyst', on: true, levelDb: 0, tap: 'after' }] };
    let ids = 0;
    const read = () => importRouting(sampleDesk().show, file, [], () => `n${(ids += 1)}`);
    expect(read).toThrow(RoutingError);
    expect(read).toThrow(
      /sends\[0\]\.from: no channel or bus is called “Foghorn” here; patches\[0\]\.device: no sound device is called “Quay desk” here/,
    );
    expect(() => importRouting(sampleDesk().show, { format: 'bivoca-routing', version: 1 }, [], () => 'n')).toThrow(/buses is missing/);
  });
});

describe('a WAV file', () => {
  it('holds 24-bit samples to half a step, and when it began', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1.5, max: 1.5, noNaN: true }), { minLength: 1, maxLength: 60 }), (values) => {
        const left = Float32Array.from(values);
        const data = packSamples([left, left.map((v) => -v)]);
        const wav = readWav(
          Buffer.concat([
            wavHead(
              {
                channels: 2,
                sampleRate: 48_000,
                description: 'Skerry Point: Field',
                startedAt: new Date(2026, 10, 23, 14, 5),
                timeReference: 123_456_789_012,
              },
              data.length,
            ),
            data,
          ]),
        );
        expect(wav).toMatchObject({ channels: 2, sampleRate: 48_000, bits: 24, timeReference: 123_456_789_012 });
        left.forEach((v, i) => {
          const held = Math.max(-1, Math.min(1, v));
          expect(Math.abs((wav.left[i] as number) - held)).toBeLessThan(1.2e-7);
          expect(Math.abs((wav.right[i] as number) + held)).toBeLessThan(1.2e-7);
        });
      }),
    );
  });
});

describe('the loudness report', () => {
  const reading = {
    ...SILENT_READING,
    integrated: -22.6,
    range: 8.2,
    truePeak: -3.1,
    momentaryMax: -15,
    shortTermMax: -18.4,
    seconds: 61.3,
  };

  it('says whether the target was met, and what was wrong', () => {
    expect(verdict(reading, -23)).toEqual({ met: true, text: 'loudness meets the target' });
    expect(verdict(reading, -16)).toEqual({ met: false, text: '6.6 LU too quiet' });
    expect(verdict({ ...reading, truePeak: -0.2 }, -23)).toMatchObject({
      met: false,
      text: 'loudness meets the target, true peak over -1 dBTP',
    });
    expect(verdict(SILENT_READING, -23).met).toBe(false);
  });

  it('is a table that other programs read', () => {
    const csv = loudnessCsv({
      show: 'Kites, "heat 4"',
      bus: 'Programme',
      made: new Date('2026-11-23T14:00:00Z'),
      targetLufs: -23,
      reading,
      points: [{ at: 0, momentary: -Infinity, shortTerm: -24.04, integrated: -22.6 }],
    });
    expect(csv.split('\r\n')[0]).toBe('Show,"Kites, ""heat 4"""');
    expect(csv).toContain('"Integrated, LUFS",-22.6\r\n');
    expect(csv.trimEnd().split('\r\n').at(-1)).toBe('0,,-24.0,-22.6');
  });
});
