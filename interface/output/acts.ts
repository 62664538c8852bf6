/** What the room Output does itself, with the recording that has the focus, or the newest. */
import { type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { say } from '../client/say';

/** A control of the recording that has the focus, otherwise of the first in the list. */
function ofRecording(role: string): HTMLElement | null {
  const row = document.activeElement?.closest('[data-recording]') ?? document.querySelector('[data-recording]');
  return row?.querySelector<HTMLElement>(`[data-role="${role}"]`) ?? null;
}

const none = () => void say.caution('There is no recording yet. Start one, from any room.', { id: 'hands' });

function press(role: string): void {
  const control = ofRecording(role);
  if (control) control.click();
  else none();
}

export const OUTPUT_ACTS: Acts = {
  'output.recordings': ({ go }) => {
    go('output');
    focusSoon('[data-recording] [data-role="play"]', none);
  },
  'output.rename': ({ go }) => {
    go('output');
    const row = document.activeElement?.closest<HTMLElement>('[data-recording]')?.dataset.recording;
    focusSoon(row ? `[data-recording="${CSS.escape(row)}"] [data-role="name"]` : '[data-recording] [data-role="name"]', none);
  },
  'output.play': ({ go }) => {
    go('output');
    press('play');
  },
  'output.save': ({ go }) => {
    go('output');
    press('save');
  },
};
