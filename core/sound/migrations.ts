/** The sound desk of old shows. */
import { listOf, type Migrations, objectOf } from '../schema/migration';

/** Processing as version 4 made it: everything off. */
const PROCESSING = {
  gainDb: 0,
  pick: 'stereo',
  highPass: { on: false, hz: 80 },
  gate: { on: false, thresholdDb: -45, rangeDb: -30, attackMs: 2, holdMs: 150, releaseMs: 200 },
  eq: {
    on: false,
    bands: [
      { kind: 'low-shelf', hz: 100, gainDb: 0, q: 0.7 },
      { kind: 'bell', hz: 400, gainDb: 0, q: 1 },
      { kind: 'bell', hz: 2500, gainDb: 0, q: 1 },
      { kind: 'high-shelf', hz: 8000, gainDb: 0, q: 0.7 },
    ],
  },
  compressor: { on: false, thresholdDb: -20, ratio: 3, attackMs: 8, releaseMs: 160, kneeDb: 6, makeUpDb: 0 },
};

/** A channel's settings as version 4 made them. */
const STRIP = {
  ...PROCESSING,
  delayMs: 0,
  pan: 0,
  faderDb: 0,
  muted: false,
  follows: false,
  inFrames: null,
  outFrames: null,
  groupId: null,
  iso: false,
};

/** The desk as version 4 made it; `programme` is what the one bus of version 3 had. */
const firstSound = (programme: object) => ({
  ...{
    inputs: [],
    sends: [],
    listeners: [
      {
        id: 'stream',
        name: 'Stream',
        kind: 'stream',
        busId: 'programme',
        rule: 'programme',
        ownIds: [],
        place: null,
        open: false,
        talkback: false,
      },
      {
        id: 'recording',
        name: 'Recording',
        kind: 'recording',
        busId: 'programme',
        rule: 'programme',
        ownIds: [],
        place: null,
        open: false,
        talkback: false,
      },
    ],
    patches: [],
    cards: [],
    paths: [],
    groups: [],
    talkbackId: null,
    dimDb: -12,
    targetLufs: -23,
  },
  buses: [
    {
      id: 'programme',
      name: 'Programme',
      colour: '#e2c48d',
      faderDb: 0,
      muted: false,
      eq: PROCESSING.eq,
      ceilingDb: -1,
      delayMs: 0,
      timing: 'picture',
      record: false,
      ...programme,
    },
  ],
  presets: [
    {
      id: 'sp-voice',
      name: 'Voice, close',
      processing: {
        ...PROCESSING,
        pick: 'mono',
        highPass: { on: true, hz: 90 },
        eq: {
          on: true,
          bands: [
            { kind: 'low-shelf', hz: 100, gainDb: 0, q: 0.7 },
            { kind: 'bell', hz: 400, gainDb: -3, q: 1 },
            { kind: 'bell', hz: 3200, gainDb: 2, q: 1 },
            { kind: 'high-shelf', hz: 8000, gainDb: 1, q: 0.7 },
          ],
        },
        compressor: { on: true, thresholdDb: -22, ratio: 3, attackMs: 8, releaseMs: 160, kneeDb: 6, makeUpDb: 3 },
      },
    },
    {
      id: 'sp-wind',
      name: 'Field microphone in wind',
      processing: {
        ...PROCESSING,
        highPass: { on: true, hz: 160 },
        eq: {
          on: true,
          bands: [
            { kind: 'low-shelf', hz: 200, gainDb: -6, q: 0.7 },
            { kind: 'bell', hz: 400, gainDb: -2, q: 1 },
            { kind: 'bell', hz: 2500, gainDb: 0, q: 1 },
            { kind: 'high-shelf', hz: 8000, gainDb: -2, q: 0.7 },
          ],
        },
      },
    },
    {
      id: 'sp-remote',
      name: 'Remote guest',
      processing: {
        ...PROCESSING,
        pick: 'mono',
        highPass: { on: true, hz: 100 },
        gate: { on: true, thresholdDb: -50, rangeDb: -18, attackMs: 2, holdMs: 150, releaseMs: 200 },
        compressor: { on: true, thresholdDb: -24, ratio: 4, attackMs: 8, releaseMs: 160, kneeDb: 6, makeUpDb: 4 },
      },
    },
    { id: 'sp-flat', name: 'Flat', processing: { ...PROCESSING } },
  ],
});

/** Nothing of a made part may be shared with another. */
const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

export const soundMigrations: Migrations = {
  // One bus, channels with a fader only.
  4: ({ programme, ...show }) => ({
    ...show,
    sound: copy(firstSound(objectOf(programme))),
    sources: listOf(show.sources).map((s) => ({ ...s, sound: { ...copy(STRIP), ...objectOf(s.sound) } })),
  }),
};
