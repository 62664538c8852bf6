/** The displays of this machine (Window Management API), and windows that open on them. */
import { create } from 'zustand';
import { type ScreenOutput } from '#core/screens/document';
import { type DisplayArea, openOutputWindow } from '../programme/open-window';

/** A display as the browser tells of it. */
export interface Display extends DisplayArea {
  label: string;
}

interface Details extends EventTarget {
  screens: readonly { label: string; availLeft: number; availTop: number; availWidth: number; availHeight: number }[];
}
type WithDetails = typeof window & { getScreenDetails?: () => Promise<Details> };

interface Found {
  /** The displays; null while nobody has asked, or the browser may not tell. */
  list: readonly Display[] | null;
  /** Why they are not known; empty when they are, or nobody has asked. */
  trouble: string;
}

export const useDisplays = create<Found>(() => ({ list: null, trouble: '' }));

const displaysOf = ({ screens }: Details): Display[] =>
  screens.map((s, i) => ({
    label: s.label || `Display ${i + 1}`,
    left: s.availLeft,
    top: s.availTop,
    width: s.availWidth,
    height: s.availHeight,
  }));

let followed: Details | null = null;

/**
 * Asks the browser for its displays, within a press: the first time it asks the person in turn. Displays that come and go are followed from
 * then on.
 */
export async function findDisplays(): Promise<void> {
  const { getScreenDetails } = window as WithDetails;
  if (!getScreenDetails) {
    useDisplays.setState({
      trouble: 'This browser does not tell which displays there are: drag the window onto its display, and press F there.',
    });
    return;
  }
  try {
    const found = await getScreenDetails.call(window);
    const tell = () => useDisplays.setState({ list: displaysOf(found), trouble: '' });
    // The browser gives the same each time.
    if (found !== followed) found.addEventListener('screenschange', tell);
    followed = found;
    tell();
  } catch {
    useDisplays.setState({
      trouble: 'The browser was not allowed to tell which displays there are: allow it at the address of this page, and ask again.',
    });
  }
}

/** Asks without a press where that was allowed before. */
export async function findKnownDisplays(): Promise<void> {
  try {
    const { state } = await navigator.permissions.query({ name: 'window-management' as PermissionName });
    if (state === 'granted') await findDisplays();
  } catch {
    // A browser that does not know the permission does not know displays either.
  }
}

/**
 * Opens the window of an output on its display; where that is away, beside this window. Returns why it could not be opened; null when it
 * was.
 */
export function openOn(showId: string, { id, name, display: label }: ScreenOutput): string | null {
  const { list } = useDisplays.getState();
  const display = list?.find((d) => d.label === label);
  const opened = openOutputWindow(showId, id, { name, ...(display && { at: display }) });
  if (!opened) return `The browser has not opened the window of ${name}: allow windows (pop-ups) at the address of this page.`;
  if (label !== '' && !display && list !== null)
    return `${label} is not there: the window of ${name} stands beside this one. Drag it, or choose another display.`;
  return null;
}
