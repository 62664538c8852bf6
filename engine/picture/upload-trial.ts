/** Finds out which way of uploading a decoded frame is faster here: a GPU and a software driver differ. */
import { FrameTexture, type UploadPath } from './texture';

const SIZE = { width: 640, height: 360 };
const ROUNDS = 4;

/** The faster path, by the best of a few uploads each, with a read-back so that the work is really done. */
export async function chooseUploadPath(gl: WebGL2RenderingContext): Promise<UploadPath> {
  const bytes = new Uint8Array((SIZE.width * SIZE.height * 3) / 2).fill(128);
  const frame = new VideoFrame(bytes, { format: 'I420', codedWidth: SIZE.width, codedHeight: SIZE.height, timestamp: 0 });
  const pixel = new Uint8Array(4);
  const times: Record<UploadPath, number> = { planes: Infinity, frame: Infinity };
  try {
    for (const path of ['planes', 'frame'] as const) {
      const texture = new FrameTexture(gl);
      for (let i = 0; i < ROUNDS; i += 1) {
        const started = performance.now();
        await texture.fill(frame, path);
        gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, pixel);
        if (i > 0) times[path] = Math.min(times[path], performance.now() - started);
      }
      texture.dispose();
    }
  } finally {
    frame.close();
  }
  return times.planes <= times.frame ? 'planes' : 'frame';
}

/** Name of the graphics driver, and whether it draws in software. */
export function describeRenderer(gl: WebGL2RenderingContext): { renderer: string; software: boolean } {
  const info = gl.getExtension('WEBGL_debug_renderer_info');
  const renderer = String(gl.getParameter(info ? info.UNMASKED_RENDERER_WEBGL : gl.RENDERER));
  return { renderer, software: /swiftshader|llvmpipe|software|basic render/i.test(renderer) };
}
