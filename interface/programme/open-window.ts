/** The programme in a window of its own, for a second display. */
/** Opens it, or brings it to the front. It finds the running show through its opener. */
export function openProgrammeWindow(): void {
  window.open('/programme', 'bivoca-programme', 'popup,width=960,height=540')?.focus();
}
