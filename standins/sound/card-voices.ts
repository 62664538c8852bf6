/** What sounds at the card's inputs by itself: a presenter, a producer, the pier, and a music player. Synthesised. */
import { BLOCK, stereo, type Stereo } from '#core/sound/dsp/stereo';

/** A voice that speaks in phrases: harmonics of a pitch that wanders, opened and closed by syllables. */
function voice(t: number, pitch: number, phrase: number, level: number): number {
  const speaks = Math.max(0, Math.sin(t * phrase)) ** 0.5;
  if (speaks === 0) return 0;
  const syllable = Math.max(0, Math.sin(t * 19 + Math.sin(t * 3.7) * 2));
  const f = pitch * (1 + 0.07 * Math.sin(t * 2.9) + 0.04 * Math.sin(t * 0.9));
  let sum = 0;
  for (let h = 1; h <= 6; h += 1) sum += Math.sin(2 * Math.PI * f * h * t) / (h * h * 0.5 + 0.5);
  return sum * speaks * syllable * level;
}

const NOTES = [220, 261.63, 329.63, 392, 440, 392, 329.63, 261.63];

/** A player of broken chords, a note every quarter of a second. */
function music(t: number): number {
  const step = Math.floor(t * 4);
  const f = (NOTES[step % NOTES.length] as number) * (Math.floor(step / 16) % 2 ? 0.75 : 1);
  const at = t * 4 - step;
  return 0.16 * Math.exp(-at * 2.4) * (Math.sin(2 * Math.PI * f * t) + 0.3 * Math.sin(4 * Math.PI * f * t));
}

export class CardVoices {
  private seed = 8128;
  private low = [0, 0];
  private readonly blocks = [stereo(), stereo(), stereo(), stereo()] as const;

  private noise(): number {
    // Linear congruential generator with the constants of Numerical Recipes.
    this.seed = (Math.imul(this.seed, 1664525) + 1013904223) | 0;
    return this.seed / 2 ** 31;
  }

  /** One block of each pair of inputs, from sample `from` on; the last pair has nothing of its own. */
  process(from: number, sampleRate: number): readonly Stereo[] {
    const [people, pier, player] = this.blocks;
    for (let i = 0; i < BLOCK; i += 1) {
      const t = (from + i) / sampleRate;
      people.left[i] = voice(t, 146, 0.83, 0.16) + this.noise() * 0.0006;
      people.right[i] = voice(t + 40, 108, 0.31, 0.14) + this.noise() * 0.0006;
      const gust = 0.5 + 0.3 * Math.sin(t * 0.5) + 0.2 * Math.sin(t * 2.3);
      [pier.left, pier.right].forEach((side, s) => {
        this.low[s] = (this.low[s] as number) + 0.06 * (this.noise() - (this.low[s] as number));
        side[i] = (this.low[s] as number) * 0.25 * gust;
      });
      player.left[i] = music(t);
      player.right[i] = music(t + 0.002);
    }
    return this.blocks;
  }
}
