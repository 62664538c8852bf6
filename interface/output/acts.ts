/** What the room Output does itself, with the recording that has the focus, or the newest. */
import { type Acts } from '../client/acts';
import { focusSoon, whenThere } from '../client/focus';
import { say } from '../client/say';

/** A control of the recording that has the focus, otherwise of the newest. */
function ofRecording(role: string): string {
  const row = document.activeElement?.closest<HTMLElement>('[data-recording]')?.dataset.recording;
  return `${row === undefined ? '[data-recording]' : `[data-recording="${CSS.escape(row)}"]`} [data-role="${role}"]`;
}

const none = () => void say.caution('There is no recording yet. Start one, from any room.', { id: 'hands' });

const press =
  (role: string): Acts[string] =>
  ({ go }) => {
    const selector = ofRecording(role);
    go('output');
    whenThere(selector, (control) => control.click(), none);
  };

const focus =
  (role: string): Acts[string] =>
  ({ go }) => {
    const selector = ofRecording(role);
    go('output');
    focusSoon(selector, none);
  };

export const OUTPUT_ACTS: Acts = {
  'output.recordings': ({ go }) => {
    go('output');
    focusSoon('[data-recording] [data-role="play"]', none);
  },
  'output.rename': focus('name'),
  'output.play': press('play'),
  'output.save': press('save'),
};
