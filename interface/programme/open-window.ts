/** The programme in a window of its own, for a second display. */
import { PROGRAMME_OUTPUT } from '#core/screens/outputs';

/** Opens the window of an output, or brings it to the front. It finds the show by its identity, wherever that runs in this browser. */
export function openOutputWindow(showId: string, outputId = PROGRAMME_OUTPUT): void {
  const address = `/programme?${new URLSearchParams({ show: showId, output: outputId }).toString()}`;
  window.open(address, `bivoca-${outputId}`, 'popup,width=960,height=540')?.focus();
}

/** Name of the lock that a window with an output of a show holds, so that the show knows it is seen. */
export const windowLock = (showId: string): string => `bivoca-window ${showId}`;
