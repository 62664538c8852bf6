/** What the room Output does itself, with the recording that has the focus, or the newest. */
import { type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';

/** A control of the recording that has the focus, otherwise of the first in the list. */
function ofRecording(role: string): HTMLElement | null {
  const row = document.activeElement?.closest('[data-recording]') ?? document.querySelector('[data-recording]');
  return row?.querySelector<HTMLElement>(`[data-role="${role}"]`) ?? null;
}

const press = (role: string) => ofRecording(role)?.click();

export const OUTPUT_ACTS: Acts = {
  'output.recordings': ({ go }) => {
    go('output');
    focusSoon('[data-recording] [data-role="play"]');
  },
  'output.rename': ({ go }) => {
    go('output');
    const row = document.activeElement?.closest<HTMLElement>('[data-recording]')?.dataset.recording;
    focusSoon(row ? `[data-recording="${CSS.escape(row)}"] [data-role="name"]` : '[data-recording] [data-role="name"]');
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
