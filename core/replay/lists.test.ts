import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { parseTimecode } from '../time/timecode';
import { type RollItem } from './air';
import { clipJson, ClipListError, clipRows, clipsOfJson, clipsOfRows, type ListContext } from './clip-lists';
import { type Clip } from './document';
import { cmx3600, eventsOf, eventsOfLog, reelNames } from './edit-list';
import { otioTimeline } from './otio';
import { totalFrames } from './roll';

const RATE = { num: 25, den: 1 };
const item = (angleId: string, from: number, out: number, speed = 100): RollItem => ({
  clipId: 'c',
  name: `Clip ${from}`,
  angleId,
  in: from,
  out,
  speed,
});
const nameOf = (id: string) => ({ a: 'Shore wide', b: 'Flight line' })[id] ?? id;

const anyItems = fc.array(
  fc
    .record({
      angle: fc.constantFrom('a', 'b'),
      from: fc.integer({ min: 100, max: 9000 }),
      span: fc.integer({ min: 4, max: 300 }),
      speed: fc.constantFrom(100, 100, 50, 25, 200),
    })
    .map(({ angle, from, span, speed }) => item(angle, from, from + span, speed)),
  { minLength: 1, maxLength: 8 },
);

interface Line {
  number: string;
  reel: string;
  how: string;
  length: number;
  times: number[];
}

/** Reads the event lines of an edit list as an editor does. */
function parse(text: string, rate = RATE): Line[] {
  return text.split('\r\n').flatMap((line) => {
    const match = /^(\d{3}) {2}(\S+) +V +(C|D) *(\d{3})? +(\S+) (\S+) (\S+) (\S+)$/.exec(line);
    return match
      ? [
          {
            number: match[1] as string,
            reel: match[2] as string,
            how: match[3] as string,
            length: Number(match[4] ?? 0),
            times: match.slice(5).map((t) => parseTimecode(t, rate)),
          },
        ]
      : [];
  });
}

describe('CMX 3600', () => {
  it('writes cuts as an editor expects them', () => {
    const text = cmx3600('Reel 1', eventsOf([item('a', 100, 200), item('b', 500, 550, 50)], 0, nameOf), RATE);
    expect(text.split('\r\n').slice(0, 8)).toEqual([
      'TITLE: Reel 1',
      'FCM: NON-DROP FRAME',
      '001  SHOREWID V     C        00:00:04:00 00:00:08:00 01:00:00:00 01:00:04:00',
      '* FROM CLIP NAME: Clip 100',
      '* SOURCE FILE: Shore wide',
      '002  FLIGHTLI V     C        00:00:20:00 00:00:22:00 01:00:04:00 01:00:08:00',
      'M2   FLIGHTLI       012.5                00:00:20:00',
      '* FROM CLIP NAME: Clip 500',
    ]);
  });

  it('fills the record side without a hole, with or without dissolves, as long as the play-out runs', () => {
    fc.assert(
      fc.property(anyItems, fc.integer({ min: 0, max: 30 }), (items, join) => {
        const lines = parse(cmx3600('x', eventsOf(items, join, nameOf), RATE)).filter((l) => l.times[2] !== l.times[3]);
        let at = 25 * 3600;
        for (const line of lines) {
          expect(line.times[2]).toBe(at);
          at = line.times[3] as number;
        }
        expect(at - 25 * 3600).toBe(totalFrames(items, join));
        expect(lines).toHaveLength(items.length);
      }),
    );
  });

  it('begins a dissolve where the outgoing piece has come to', () => {
    const [, out, dissolve] = parse(cmx3600('x', eventsOf([item('a', 100, 200), item('b', 500, 600)], 20, nameOf), RATE));
    expect(out).toMatchObject({ how: 'C', times: [180, 180, 90080, 90080] });
    expect(dissolve).toMatchObject({ how: 'D', length: 20, times: [500, 600, 90080, 90180] });
  });

  it('counts drop-frame at 29.97', () => {
    const text = cmx3600('x', eventsOf([item('a', 1790, 1810)], 0, nameOf), { num: 30000, den: 1001 });
    expect(text).toContain('FCM: DROP FRAME');
    expect(text).toContain('00:00:59;20 00:01:00;12 01:00:00;00 01:00:00;20');
  });

  it('names reels in eight characters, each its own', () => {
    const events = eventsOf(
      ['Camera one wide', 'Camera one tight', 'Ærø', '日本'].map((n) => item(n, 0, 10)),
      0,
      (id) => id,
    );
    const names = [...reelNames(events).values()];
    expect(new Set(names).size).toBe(4);
    for (const name of names) expect(name).toMatch(/^[A-Z0-9]{1,8}$/);
  });

  it('writes the programme from the as-run log, against the angles', () => {
    const line = (sourceId: string | null, startFrame: number, endFrame: number | null) => ({
      place: 'picture',
      sourceId,
      what: 'x',
      startFrame,
      endFrame,
    });
    const events = eventsOfLog(
      [line('b', 300, null), line('a', 100, 200), line(null, 200, 300), { ...line('a', 150, 160), place: 'Names' }],
      new Map([
        ['a', 'Shore'],
        ['b', 'Line'],
      ]),
      350,
    );
    expect(events.map((e) => [e.angle, e.sourceIn, e.sourceOut, e.recordIn, e.recordOut])).toEqual([
      ['Shore', 100, 200, 0, 100],
      ['AX', 200, 300, 100, 200],
      ['Line', 300, 350, 200, 250],
    ]);
  });
});

describe('OpenTimelineIO', () => {
  it('is a track whose clips and dissolves last as long as the play-out', () => {
    fc.assert(
      fc.property(anyItems, fc.integer({ min: 0, max: 30 }), (items, join) => {
        const files = new Map([['a', { fileName: 'Shore wide.mp4', from: 0, to: 10_000 }]]);
        const timeline = JSON.parse(otioTimeline('Reel', eventsOf(items, join, nameOf), RATE, files));
        const track = timeline.tracks.children[0];
        expect([timeline.OTIO_SCHEMA, timeline.tracks.OTIO_SCHEMA, track.OTIO_SCHEMA, track.kind]).toEqual([
          'Timeline.1',
          'Stack.1',
          'Track.1',
          'Video',
        ]);
        const found = track.children.filter((c: { OTIO_SCHEMA: string }) => c.OTIO_SCHEMA === 'Clip.2');
        const length = found.reduce(
          (sum: number, c: { source_range: { duration: { value: number } } }) => sum + c.source_range.duration.value,
          0,
        );
        expect(length).toBe(totalFrames(items, join));
        found.forEach(
          (
            c: { effects: { time_scalar: number }[]; media_references: { DEFAULT_MEDIA: { OTIO_SCHEMA: string; target_url?: string } } },
            i: number,
          ) => {
            const { speed, angleId } = items[i] as RollItem;
            expect(c.effects.map((e) => e.time_scalar)).toEqual(speed === 100 ? [] : [speed / 100]);
            expect(c.media_references.DEFAULT_MEDIA.OTIO_SCHEMA).toBe(angleId === 'a' ? 'ExternalReference.1' : 'MissingReference.1');
          },
        );
        // A transition stands between two clips, never at an end.
        const kinds = track.children.map((c: { OTIO_SCHEMA: string }) => c.OTIO_SCHEMA);
        expect(kinds[0]).toBe('Clip.2');
        expect(kinds.at(-1)).toBe('Clip.2');
      }),
    );
  });
});

describe('edit lists of hostile names', () => {
  it('stay one line each, without control characters', () => {
    const item: RollItem = {
      clipId: 'x',
      name: 'a\u0000b\u001b[2J\u2028c\r\n* FROM',
      angleId: 'a',
      in: 0,
      out: 50,
      speed: 100,
    } as unknown as RollItem;
    const text = cmx3600(
      't\u0085x',
      eventsOf([item], 0, () => 'n\u007fn'),
      RATE,
    );
    // eslint-disable-next-line no-control-regex
    expect(text.replace(/\r\n/g, '')).not.toMatch(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]/);
    expect(text).toContain('* FROM CLIP NAME: a b [2J c * FROM');
  });
});

describe('clip lists', () => {
  const context: ListContext = {
    rate: RATE,
    angles: ['a', 'b', 'c'].map((sourceId) => ({ pictureId: sourceId, soundId: null })),
    angleName: (id) => (id === 'c' ? 'Pan + tilt \\ zoom' : nameOf(id)),
    reelName: () => 'Reel 1',
  };
  const anyClip = fc
    .record({
      name: fc.oneof(
        fc.string({ minLength: 1, maxLength: 60 }),
        fc.constantFrom('=1+1', "'=1", '+49', '-', '@x', ' blank ', '\t=x', '\r=1', "''", '"'),
      ),
      in: fc.integer({ min: 0, max: 2e6 }),
      span: fc.integer({ min: 1, max: 5000 }),
      angleIds: fc.constantFrom(['a'], ['b', 'a'], ['c'], ['c', 'b']),
      speed: fc.integer({ min: 1, max: 200 }),
      rating: fc.integer({ min: 0, max: 5 }),
      tags: fc.constantFrom('', 'one, two'),
      note: fc.constantFrom('', 'a "quoted" note,\nwith two lines', ' =sum '),
    })
    .map(({ span, angleIds, ...c }): Clip => ({
      ...c,
      angleIds: [...angleIds],
      out: c.in + span,
      id: 'x',
      number: 1,
      reelId: 'reel-1',
      colour: '#5aa9c9',
    }));
  const told = ({ name, in: from, out, angleIds, speed, rating, tags, note }: Clip) => ({
    name,
    in: from,
    out,
    angleIds,
    speed,
    rating,
    tags,
    note,
  });

  it('come back from CSV and JSON as they were written', () => {
    fc.assert(
      fc.property(fc.array(anyClip, { minLength: 1, maxLength: 10 }), (clips) => {
        const csv = Papa.unparse(clipRows(clips, context), { newline: '\r\n' });
        expect(clipsOfRows(Papa.parse<string[]>(csv).data, context, 3e6)).toEqual(clips.map(told));
        expect(clipsOfJson(clipJson(clips, context), context)).toEqual(clips.map(told));
      }),
    );
  });

  it('are no formulas to a spreadsheet', () => {
    fc.assert(
      fc.property(fc.array(anyClip, { minLength: 1, maxLength: 5 }), (clips) =>
        clipRows(clips, context)
          .slice(1)
          .every((row) => row.every((c) => !/^\s*[=+\-@]/.test(c) || /^\d/.test(c))),
      ),
    );
  });

  it('of another rate are brought to the show’s: the same moments', () => {
    const sixty = { num: 60, den: 1 };
    const clip: Clip = {
      id: 'x',
      number: 1,
      reelId: 'r',
      name: 'Gust',
      in: 6000,
      out: 6120,
      angleIds: ['a'],
      speed: 100,
      rating: 0,
      tags: '',
      note: '',
      colour: '#5aa9c9',
    };
    const wanted = [{ in: 2500, out: 2550, name: 'Gust' }];
    expect(clipsOfJson(clipJson([clip], { ...context, rate: sixty }), context)).toMatchObject(wanted);
    expect(clipsOfRows(clipRows([clip], { ...context, rate: sixty }), context, 3e6)).toMatchObject(wanted);
    expect(clipsOfJson(clipJson([{ ...clip, out: 6001 }], { ...context, rate: sixty }), context)).toMatchObject([{ in: 2500, out: 2501 }]);
  });

  it('of another form, without a rate, or with anything but clips in them are refused, and told why', () => {
    const list = (change: object) =>
      JSON.stringify({ format: 'bivoca-clips', version: 1, rate: { num: 25, den: 1 }, clips: [{ in: 1, out: 5 }], ...change });
    expect(() => clipsOfJson(list({ version: 2 }), context)).toThrow(/form that is not known/);
    for (const rate of [null, 7, { num: '25' }, { num: 0, den: 0 }, { num: 1e9, den: 1 }])
      expect(() => clipsOfJson(list({ rate }), context)).toThrow(ClipListError);
    for (const clips of [[null], [7], [[]], ['x'], [{ in: '1', out: 5 }], [{ in: -1, out: 5 }]])
      expect(() => clipsOfJson(list({ clips }), context)).toThrow(/Clip 1/);
    expect(
      clipsOfJson(
        list({ clips: [{ in: 1, out: 5, name: { toString: 1 }, angles: [{ toString: 1 }, null], speed: {}, tags: [] }] }),
        context,
      ),
    ).toMatchObject([{ name: 'Clip 1', speed: 100, angleIds: [] }]);
  });

  it('are read with no more than in and out, in any order of columns', () => {
    expect(
      clipsOfRows(
        [
          ['Out', 'In'],
          ['00:00:10:00', '00:00:08:00'],
        ],
        context,
        1000,
      ),
    ).toMatchObject([{ in: 200, out: 250, name: 'Clip 1', speed: 100, angleIds: [] }]);
  });

  it('that are wrong are refused whole, and every line is named', () => {
    expect(() =>
      clipsOfRows(
        [
          ['in', 'out'],
          ['00:00:10:00', '00:00:08:00'],
          ['now', '00:00:08:00'],
        ],
        context,
        1000,
      ),
    ).toThrow(/line 2: it ends before it begins\. line 3: "now" is not a timecode/);
    expect(() => clipsOfRows([['name'], ['x']], context, 1000)).toThrow(/no columns/);
    expect(() => clipsOfJson('{', context)).toThrow(ClipListError);
    expect(() =>
      clipsOfJson('{"format":"bivoca-clips","version":1,"rate":{"num":25,"den":1},"clips":[{"in":5,"out":5}]}', context),
    ).toThrow(/Clip 1/);
  });
});
