/** What is held: acts that ask for it wait, show how far they are, and say so when they were only pressed. */
import { type Meaning } from '#core/control/action';
import { over, say } from '../client/say';
import { HOLD_MS } from '../parts/hold-button';

/** Waits for the hold of one key. */
export class Hold {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private words = '';

  /** Begins to wait; `act` is done when the key is still down then. */
  begin(words: string, meaning: Meaning, act: (meaning: Meaning) => void): void {
    clearTimeout(this.timer);
    this.words = words;
    say.working(`Hold: ${words}`, { id: 'hold', duration: HOLD_MS });
    this.timer = setTimeout(() => {
      this.timer = undefined;
      over('hold');
      act(meaning);
    }, HOLD_MS);
  }

  /** The key was let go. */
  end(): void {
    if (this.timer === undefined) return;
    clearTimeout(this.timer);
    this.timer = undefined;
    say.info(`Not done: hold the key for “${this.words}”.`, { id: 'hold' });
  }
}
