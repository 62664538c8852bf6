/** What is held: acts that ask for it wait, show how far they are, and say so when they were only pressed. */
import { over, say } from '../client/say';
import { HOLD_MS } from '../parts/use-press';

/** Waits for the hold of one key or button that has just been pressed. */
export class Hold {
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** `act` is done when it is still down then; `words` say what that is. */
  constructor(
    private readonly words: string,
    act: () => void,
  ) {
    say.working(`Hold: ${words}`, { id: 'hold', duration: HOLD_MS });
    this.timer = setTimeout(() => {
      this.timer = undefined;
      over('hold');
      act();
    }, HOLD_MS);
  }

  /** It was let go. */
  end(): void {
    if (this.timer === undefined) return;
    clearTimeout(this.timer);
    this.timer = undefined;
    say.info(`Not done: hold the key for “${this.words}”.`, { id: 'hold' });
  }
}
