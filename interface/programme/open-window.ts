/** The programme in a window of its own, for a second display. */
/** Opens it, or brings it to the front. It finds the running show through its opener. */
export function openProgrammeWindow(feed: 'programme' | 'clean' = 'programme'): void {
  window.open(feed === 'clean' ? '/programme?feed=clean' : '/programme', `bivoca-${feed}`, 'popup,width=960,height=540')?.focus();
}
