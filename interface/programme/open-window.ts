/** The programme in a window of its own, for a second display. */
import { PROGRAMME_OUTPUT } from '#core/screens/outputs';

/** Where a display stands among all of them, in pixels of the desktop. */
export interface DisplayArea {
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * Opens the window of an output, or brings it to the front; `at` is where it opens. It finds the show by its identity, wherever that runs
 * in this browser.
 */
export function openOutputWindow(
  showId: string,
  outputId = PROGRAMME_OUTPUT,
  { name, at }: { name?: string; at?: DisplayArea } = {},
): Window | null {
  const address = `/programme?${new URLSearchParams({ show: showId, output: outputId, ...(name !== undefined && { name }) }).toString()}`;
  const place = at ? `left=${at.left},top=${at.top},width=${at.width},height=${at.height}` : 'width=960,height=540';
  const opened = window.open(address, `bivoca-${outputId}`, `popup,${place}`);
  opened?.focus();
  return opened;
}

/**
 * Name of the lock that a window with an output of a show holds, so that the show knows it is seen; without a show it is for whichever
 * runs.
 */
export const windowLock = (showId: string, outputId: string): string => `bivoca-window ${showId} ${outputId}`;
