/** Sound of the demo show: the pier's microphones, who listens, and the simulated card with its room. */
import { createBus, type Listener, type ListenerKind, type Rule } from '#core/sound/document';
import { plainStrip, type ChannelStrip } from '#core/sound/strip';
import { type Show } from '#core/desk/show';
import { SIMULATED_CARD, SIMULATED_CARD_LABEL } from './simulated-card';

const CARD = { deviceId: SIMULATED_CARD, deviceLabel: SIMULATED_CARD_LABEL };

/** Adds channels, buses, listeners and patches to the demo show. */
export function addDemoSound(show: Show): void {
  const { sound } = show;
  const preset = (id: string) => structuredClone(sound.presets.find((p) => p.id === id)?.processing);
  const input = (id: string, name: string, colour: string, first: number, stereo: boolean, change: Partial<ChannelStrip>) =>
    sound.inputs.push({ id, name, colour, feed: { kind: 'device', ...CARD, first, stereo }, sound: plainStrip(change) });
  input('mic-presenter', 'Presenter', '#5aa9c9', 1, false, { ...preset('sp-voice'), gainDb: 3 });
  input('mic-producer', 'Producer', '#8c9bd9', 2, false, { ...preset('sp-voice') });
  input('mic-field', 'Field', '#8fbf6a', 3, true, { ...preset('sp-wind'), faderDb: -8 });
  input('music', 'Music', '#c2b65f', 5, true, { faderDb: -16 });
  sound.inputs.push({
    id: 'line-up-tone',
    name: 'Line-up tone',
    colour: '#8fa5a3',
    feed: { kind: 'tone', hz: 1000, levelDb: -18 },
    sound: plainStrip({ muted: true }),
  });
  sound.talkbackId = 'mic-producer';
  sound.groups = [{ id: 'pier', name: 'Pier cameras', faderDb: 0, muted: false }];
  for (const source of show.sources) if (source.groupId === 'cameras') source.sound.groupId = 'pier';

  const bus = (id: string, name: string, colour: string) => sound.buses.push(createBus(id, name, colour, 'live'));
  bus('bus-pa', 'Pier PA', '#8fbf6a');
  bus('bus-wind', 'Wind analyst', '#5aa9c9');
  bus('bus-judge', 'Judge', '#b58ad6');
  bus('bus-presenter', 'Presenter’s ear', '#d67f8c');
  bus('bus-producer', 'Producer', '#8c9bd9');
  const listen = (
    id: string,
    name: string,
    kind: ListenerKind,
    busId: string,
    rule: Rule,
    ownIds: string[],
    change: Partial<Listener> = {},
  ) =>
    sound.listeners.push({
      id,
      name,
      kind,
      busId,
      rule,
      ownIds,
      place: null,
      open: false,
      talkback: kind === 'guest' || kind === 'presenter',
      ...change,
    });
  listen('pier', 'People on the pier', 'room', 'bus-pa', 'all-but-self', ['mic-field'], { place: { ...CARD, pair: 1 }, talkback: true });
  listen('wind-analyst', 'Wind analyst', 'guest', 'bus-wind', 'all-but-self', ['hut']);
  listen('judge', 'Judge', 'guest', 'bus-judge', 'all-but-self', []);
  listen('presenter', 'Presenter', 'presenter', 'bus-presenter', 'all-but-self', ['mic-presenter'], { place: { ...CARD, pair: 2 } });
  listen('producer', 'Producer', 'producer', 'bus-producer', 'guests', ['mic-producer'], { place: { ...CARD, pair: 3 } });

  sound.patches = [
    { id: 'patch-pa', busId: 'bus-pa', to: { ...CARD, pair: 1 } },
    { id: 'patch-ear', busId: 'bus-presenter', to: { ...CARD, pair: 2 } },
    { id: 'patch-producer', busId: 'bus-producer', to: { ...CARD, pair: 3 } },
  ];
  sound.cards = [
    {
      ...CARD,
      inputs: [
        { pair: 1, name: 'desk microphones' },
        { pair: 2, name: 'pier microphones' },
        { pair: 3, name: 'music player' },
      ],
      outputs: [
        { pair: 1, name: 'Pier loudspeakers' },
        { pair: 2, name: 'presenter’s ear' },
        { pair: 3, name: 'producer’s headphones' },
      ],
      mixes: [
        { id: 'mix-pier', from: 'input', fromPair: 2, to: 'output', toPair: 3, levelDb: -10, on: true },
        { id: 'mix-gang', from: 'output', fromPair: 2, to: 'output', toPair: 1, levelDb: 0, on: false },
      ],
    },
  ];
  // Twelve metres of pier between loudspeakers and microphones.
  sound.paths = [{ id: 'air-pier', from: { ...CARD, pair: 1 }, to: { ...CARD, pair: 2 }, levelDb: -9, delayMs: 35, on: true }];
}
