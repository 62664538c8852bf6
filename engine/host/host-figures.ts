/** What /api/status and panels are told once a second: figures, not documents. */
import { type History } from '#core/desk/history';
import { type AudienceState, type GuestsState } from '../client/show-client';
import { type LiveState } from '../client/state';
import { type SoundDesk } from '../sound/sound-desk';

/** Words of guests that panels are told: the last of them. */
const WORDS_TOLD = 30;

const stepWords = (step: History['past'][number] | undefined) => (step ? { title: step.title, by: step.by } : null);

export function hostFigures(
  state: LiveState,
  desk: Pick<SoundDesk, 'clockError' | 'store'>,
  { figures, words }: GuestsState,
  audience: AudienceState,
): Record<string, unknown> {
  const { frame, mixer, encoder, replay, health, renderer, working, space, sheets, devices, soundAwake, failure, sizes, history } = state;
  const undo = { past: stepWords(history.past.at(-1)), future: stepWords(history.future.at(-1)) };
  const guests = { figures, words: words.slice(-WORDS_TOLD) };
  const sound = { clockError: desk.clockError, sound: desk.store.getState() };
  return {
    frame,
    mixer,
    encoder,
    replay,
    health,
    renderer,
    working,
    space,
    sheets,
    devices,
    soundAwake,
    failure,
    sizes,
    undo,
    guests,
    audience,
    ...sound,
  };
}
