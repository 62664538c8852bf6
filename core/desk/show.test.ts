import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { createDemoShow } from '#standins/show/demo';
import { createShow } from './create';
import { readShow } from './migrate';
import { type Show } from './show';
import { SHOW_VERSION } from './version';
import { ShowError, showProblems } from './validate';

const plain = (show: Show) => JSON.parse(JSON.stringify(show)) as Record<string, unknown>;

describe('reading a show', () => {
  it('takes every show that Bivoca makes', () => {
    expect(showProblems(plain(createShow('x', 'New', { width: 1920, height: 1080 }, { num: 60000, den: 1001 })))).toEqual([]);
    expect(
      showProblems(
        plain(
          createDemoShow('demo', {
            bug: 'bug',
            frame: 'frame',
            sail: 'sail',
            swell: 'swell',
            templates: {},
            heats: { columns: [], rows: [] },
            port: 4300,
          }).show,
        ),
      ),
    ).toEqual([]);
    expect(readShow(plain(sampleDesk().show))).toEqual(sampleDesk().show);
  });

  it('names place and cause of each fault', () => {
    const raw = plain(sampleDesk().show);
    const sources = raw.sources as Record<string, Record<string, unknown>>[];
    Object.assign(sources[1] as object, { name: 7 });
    Object.assign(sources[3]?.settings as object, { in: -1, colour: 'red' });
    expect(showProblems(raw).map((p) => p.path)).toEqual(['sources[1].name', 'sources[3].settings.colour', 'sources[3].settings.in']);
    expect(() => readShow(raw)).toThrow(/sources\[1\]\.name/);
  });

  it.each<[string, (raw: Show) => void, RegExp]>([
    ['two sources of one id', (raw) => Object.assign(raw.sources[1] as object, { id: 'a' }), /used twice/],
    ['two sources of one number', (raw) => Object.assign(raw.sources[1] as object, { number: 1 }), /number 1 is used twice/],
    [
      'a lane that points nowhere',
      (raw) => Object.assign(raw.lanes[0] as object, { content: { kind: 'picture', id: 'gone' } }),
      /no picture has the id/,
    ],
    ['an odd raster', (raw) => Object.assign(raw.raster, { width: 641 }), /even/],
    [
      'an out point before the in point',
      (raw) => Object.assign(raw.sources[3]?.settings as object, { in: 5, out: 4 }),
      /later than the in point/,
    ],
    ['a kind that does not exist', (raw) => Object.assign(raw.sources[0]?.settings as object, { kind: 'hologram' }), /no known kind/],
    ['a rate of nothing', (raw) => Object.assign(raw.rate, { num: 1, den: 1000 }), /frames a second/],
  ])('refuses %s', (_, spoil, message) => {
    const raw = sampleDesk().show;
    spoil(raw);
    expect(() => readShow(raw)).toThrow(message);
  });

  it('refuses a newer version and says what to do, and what is no show at all', () => {
    expect(() => readShow({ ...plain(sampleDesk().show), version: SHOW_VERSION + 1 })).toThrow(/newer Bivoca.*Update/);
    for (const raw of [null, 3, [], {}, { format: 'other' }]) expect(() => readShow(raw)).toThrow(/not a Bivoca show/);
  });

  it('refuses old versions with objects in the place of numbers, and says so', () => {
    const hostile: unknown[] = [{ toString: 1, valueOf: 2 }, {}, [], null, '7', true];
    for (const version of [0, 1, 2, 3]) {
      for (const value of hostile) {
        for (const change of [
          { raster: value },
          { raster: { width: value, height: value } },
          { transition: { frames: value, direction: value } },
          { transition: value },
          { lanes: [{ fadeFrames: value }, value] },
          { sources: value },
          { sources: [{ settings: value }] },
          { output: value },
        ]) {
          try {
            expect(showProblems(readShow({ ...plain(sampleDesk().show), version, ...change }))).toEqual([]);
          } catch (error) {
            expect(error).toBeInstanceOf(ShowError);
          }
        }
      }
    }
  });

  it('names a few hundred faults of a file that has hundreds of thousands', () => {
    const raw = plain(sampleDesk().show);
    const replay = raw.replay as { clips: unknown[] };
    replay.clips = Array.from({ length: 20_000 }, () => ({ extra: 1 }));
    expect(showProblems(raw).length).toBeLessThan(1000);
    expect(showProblems({ ...plain(sampleDesk().show), sources: Array.from({ length: 300_000 }, () => null) }).length).toBeLessThan(1000);
    expect(() => readShow(raw)).toThrow(/replay\.clips\[0\].*and \d+ more/);
  });

  it('brings an old draft up to date', () => {
    const { seats, eyes, framings, layouts, presets, styles, transitions, overrides, ...raw } = plain(sampleDesk().show);
    expect([seats, eyes, framings, layouts, presets, styles, overrides]).toEqual([[], [], [], [], [], [], []]);
    expect(transitions).toBeDefined();
    const first = {
      ...raw,
      version: 0,
      lanes: (raw.lanes as Record<string, unknown>[]).map(({ id, name, content, holdSeconds }) => ({
        id,
        name,
        content,
        holdSeconds,
        fadeFrames: 7,
      })),
      sources: (raw.sources as { settings: Record<string, unknown> }[]).map((s) => {
        const settings = { ...s.settings };
        delete settings.hasAlpha;
        return { ...s, settings };
      }),
      transition: { kind: 'wipe', frames: 20, dipColour: '#0d1517', direction: 'up', softness: 0.1 },
    };
    delete (first as Record<string, unknown>).blackFrames;
    for (const output of Object.values((first as unknown as { output: Record<string, Record<string, unknown>> }).output))
      delete output.outputId;
    const now = readShow(first);
    expect(now).toMatchObject({
      version: SHOW_VERSION,
      blackFrames: 20,
      transition: { kind: 'wipe', angle: 270, softness: 0.1 },
      layouts: [],
    });
    expect(now.output).toMatchObject({ recording: { outputId: 'programme' }, stream: { outputId: 'programme' } });
    expect(now.lanes[0]).toMatchObject({ in: { kind: 'fade', frames: 7 }, out: { frames: 7 }, throughBlack: false });
    expect(now.sources.find((s) => s.id === 'bug')?.settings).toMatchObject({ kind: 'still', hasAlpha: true });
  });

  it('answers any damage with a ShowError, never with anything else', () => {
    const paths: (string | number)[][] = [];
    const walk = (value: unknown, path: (string | number)[]) => {
      paths.push(path);
      if (Array.isArray(value)) value.forEach((v, i) => walk(v, [...path, i]));
      else if (value && typeof value === 'object') for (const [k, v] of Object.entries(value)) walk(v, [...path, k]);
    };
    walk(plain(sampleDesk().show), []);
    const junk = fc.oneof(
      fc.anything(),
      fc.constantFrom(null, undefined, NaN, Infinity, -1, '', 'x'.repeat(9999), [], {}, { __proto__: null }),
    );
    fc.assert(
      fc.property(fc.constantFrom(...paths.filter((p) => p.length > 0)), junk, (path, value) => {
        const raw = plain(sampleDesk().show);
        const last = path.at(-1) as string;
        const holder = path.slice(0, -1).reduce<Record<string, unknown>>((at, key) => at[key] as Record<string, unknown>, raw);
        holder[last] = value;
        try {
          expect(showProblems(readShow(raw))).toEqual([]);
        } catch (error) {
          expect(error).toBeInstanceOf(ShowError);
          expect((error as ShowError).message.length).toBeGreaterThan(10);
        }
      }),
      { numRuns: 800 },
    );
  });

  it('is not fooled by a field that would change the prototype', () => {
    const raw = JSON.parse('{"format":"bivoca-show","version":1,"__proto__":{"name":"x"}}') as unknown;
    expect(() => readShow(raw)).toThrow(ShowError);
  });
});

describe('sources are referred to by identity', () => {
  it('keeps numbers and references when the order changes', () => {
    const before = must(sampleDesk(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'c' } });
    const desk = must(before, 'source.move', { source: 'c', index: 0 });
    expect(desk.show.sources.map((s) => [s.id, s.number])).toEqual([
      ['c', 3],
      ['a', 1],
      ['b', 2],
      ['clip', 4],
      ['bug', null],
    ]);
    expect(desk.show.lanes[0]?.content?.id).toBe('c');
    expect(must(desk, 'picture.setNextByNumber', { number: 3 }).air.nextId).toBe('c');
  });

  it('keeps every number when one is deleted, and gives a new source the first free one', () => {
    let desk = must(sampleDesk(), 'picture.setNext', { picture: 'c' });
    desk = must(desk, 'source.remove', { source: 'b' });
    expect(desk.show.sources.map((s) => s.number)).toEqual([1, 3, 4, null]);
    desk = must(desk, 'source.add', { name: 'New', settings: { kind: 'colour', colour: '#112233' } });
    expect(desk.show.sources.at(-1)?.number).toBe(2);
  });

  it('says where a source is used, and never removes what is on air', () => {
    const desk = must(sampleDesk(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'b' } });
    const refused = attempt(desk, 'source.remove', { source: 'b' });
    expect(refused).toMatchObject({ ok: false, error: { code: 'in-use' } });
    expect(refused.ok ? '' : refused.error.message).toBe('Camera b is in use: held ready in Names; Next.');
    expect(must(desk, 'source.remove', { source: 'b', force: true }).air.nextId).toBeNull();
    expect(attempt(desk, 'source.remove', { source: 'a', force: true }).ok).toBe(false);
  });

  it('refuses a number that another wears', () => {
    expect(attempt(sampleDesk(), 'source.pin', { source: 'a', number: 2 })).toMatchObject({
      ok: false,
      error: { code: 'number-taken', field: 'number' },
    });
  });
});

describe('format and outputs', () => {
  it('never changes the raster under a recording or stream', () => {
    const recording = must(sampleDesk(), 'output.startRecording');
    expect(attempt(recording, 'show.setRaster', { raster: { width: 128, height: 72 } })).toMatchObject({
      ok: false,
      error: { code: 'output-running' },
    });
    expect(attempt(recording, 'output.setRecording', { megabits: 3 }).ok).toBe(false);
    const stopped = must(recording, 'output.stopRecording');
    expect(must(stopped, 'show.setRaster', { raster: { width: 128, height: 72 } }).show.raster.width).toBe(128);
  });

  it('takes only addresses a stream can be put to', () => {
    for (const url of ['ftp://x', '//other/host', 'javascript:x'])
      expect(attempt(sampleDesk(), 'output.setStream', { url }).ok).toBe(false);
    for (const url of ['/ingest/x', 'https://example.test/in']) expect(attempt(sampleDesk(), 'output.setStream', { url }).ok).toBe(true);
  });
});
