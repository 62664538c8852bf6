/** Windows with one thing in them fill the screen by F, or a double press. */
import { useEffect } from 'react';

export function toggleFull(): void {
  if (document.fullscreenElement) void document.exitFullscreen();
  else void document.documentElement.requestFullscreen();
}

/** F fills the screen with this window, or leaves it. */
export function useFullKey(): void {
  useEffect(() => {
    const key = (event: KeyboardEvent) => event.code === 'KeyF' && toggleFull();
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, []);
}
