/** Which mixer a page wants, before any is started. */
import { describeRenderer } from './upload-trial';

/** True when this browser draws WebGL2 in software. */
export function drawsInSoftware(): boolean {
  const gl = new OffscreenCanvas(1, 1).getContext('webgl2');
  if (!gl) return true;
  const { software } = describeRenderer(gl);
  gl.getExtension('WEBGL_lose_context')?.loseContext();
  return software;
}

/** For finding faults: `localStorage['bivoca.mixer']` set to `gl` or `soft` overrides the choice. */
export function preferredMixer(): 'gl' | 'soft' | null {
  const chosen = localStorage.getItem('bivoca.mixer');
  return chosen === 'gl' || chosen === 'soft' ? chosen : null;
}
