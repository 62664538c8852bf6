/** Words of the room Sound. */
import { type ListenerKind, type Pair, type Rule, type Sound } from '#core/sound/document';

export const KIND_WORDS: Record<ListenerKind, string> = {
  stream: 'stream',
  recording: 'recording',
  room: 'people in the room',
  guest: 'remote guest',
  producer: 'producer',
  presenter: 'presenter’s ear',
};

export const RULE_WORDS: Record<Rule, string> = {
  programme: 'the programme',
  'all-but-self': 'everything but themself',
  guests: 'the guests alone',
  hand: 'only what is sent by hand',
};

/** "outputs 1–2 (Pier loudspeakers)". */
export function pairWords(sound: Sound, side: 'inputs' | 'outputs', { deviceId, pair }: Pick<Pair, 'deviceId' | 'pair'>): string {
  const name = sound.cards.find((c) => c.deviceId === deviceId)?.[side].find((p) => p.pair === pair)?.name;
  return `${side} ${pair * 2 - 1}–${pair * 2}${name ? ` (${name})` : ''}`;
}

/** A level as people write it. */
export const dbWords = (db: number): string => (db === -Infinity ? '−∞' : `${db > 0 ? '+' : ''}${db.toFixed(1)}`.replace('-', '−'));
