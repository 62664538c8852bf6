/** Framebuffers to draw into on the way to a picture: taken while one plan is drawn, kept for the next. */
import { createTexture, type Picture } from './texture';

export interface Target {
  framebuffer: WebGLFramebuffer;
  picture: Picture;
}

/** A framebuffer with one texture of `width` × `height`. */
export function createTarget(
  gl: WebGL2RenderingContext,
  width: number,
  height: number,
): { framebuffer: WebGLFramebuffer; texture: WebGLTexture } {
  const texture = createTexture(gl);
  gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA8, width, height, 0, gl.RGBA, gl.UNSIGNED_BYTE, null);
  const framebuffer = gl.createFramebuffer();
  if (!framebuffer) throw new Error('The graphics driver gave no framebuffer.');
  gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer);
  gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0);
  return { framebuffer, texture };
}

/** Targets unused for so many pictures are given back. */
const FORGET_AFTER = 600;

export class TargetPool {
  private readonly held: (Target & { used: boolean; idle: number })[] = [];

  constructor(private readonly gl: WebGL2RenderingContext) {}

  take(width: number, height: number): Target {
    const free = this.held.find((t) => !t.used && t.picture.width === width && t.picture.height === height);
    if (free) {
      free.used = true;
      free.idle = 0;
      free.picture.reduced = false;
      return free;
    }
    const { framebuffer, texture } = createTarget(this.gl, width, height);
    const picture: Picture = { layout: 'rgba', width, height, opaque: true, planes: [texture], colour: null };
    const made = { framebuffer, picture, used: true, idle: 0 };
    this.held.push(made);
    return made;
  }

  /** All that was taken may be taken again. */
  settle(): void {
    for (const target of [...this.held]) {
      target.used = false;
      target.idle += 1;
      if (target.idle <= FORGET_AFTER) continue;
      this.gl.deleteFramebuffer(target.framebuffer);
      target.picture.planes.forEach((plane) => this.gl.deleteTexture(plane));
      this.held.splice(this.held.indexOf(target), 1);
    }
  }
}
