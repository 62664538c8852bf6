/** The finish of an output on the graphics card: one pass for each active area. See core/screens/finish.ts. */
import { createProgramInfo, type ProgramInfo } from 'twgl.js';
import { type AreaFinish, type OutputFinish, shadesOf } from '#core/screens/finish';
import { type Homography, inverse, pulled, squareTo } from '#core/screens/homography';
import { type Raster } from '#core/show/raster';
import { VERTEX } from './shaders';
import { createTexture } from './texture';

const FRAGMENT = `#version 300 es
precision highp float;
in vec2 v_corner; in vec2 v_raster; out vec4 colour;
uniform sampler2D u_picture; uniform sampler2D u_shade;
uniform vec2 u_size; uniform vec4 u_area; uniform mat3 u_map; uniform bool u_pulled; uniform vec3 u_gain;
void main() {
  vec2 at = v_raster;
  vec4 shade = texture(u_shade, at);
  if (u_pulled) {
    vec3 p = u_map * vec3(v_raster * u_size, 1.0);
    vec2 uv = p.xy / p.z;
    if (any(lessThan(uv, vec2(0.0))) || any(greaterThan(uv, vec2(1.0)))) { colour = vec4(vec3(shade.g), 1.0); return; }
    // Not past the middle of the outermost pixels: what lies beyond belongs to another area.
    vec2 inside = clamp(u_area.xy + uv * u_area.zw, u_area.xy + 0.5, u_area.xy + u_area.zw - 0.5);
    at = inside / u_size;
  }
  colour = vec4(texture(u_picture, at).rgb * u_gain * shade.r + shade.g, 1.0);
}`;

const MOST_KEPT = 64;

export class GlFinish {
  private readonly program: ProgramInfo;
  private readonly shades = new Map<string, WebGLTexture>();

  constructor(private readonly gl: WebGL2RenderingContext) {
    const errors: string[] = [];
    const info = createProgramInfo(gl, [VERTEX, FRAGMENT], { errorCallback: (m) => errors.push(m) });
    if (!info?.program) throw new Error(`The graphics driver refused a shader: ${errors.join(' ')}`);
    this.program = info;
  }

  /** Draws the areas of `picture`, which is `size`, onto the framebuffer, which holds the same picture already; rows from the top. */
  apply(finish: NonNullable<OutputFinish>, picture: WebGLTexture, framebuffer: WebGLFramebuffer, size: Raster): void {
    const { gl } = this;
    gl.bindFramebuffer(gl.FRAMEBUFFER, framebuffer);
    gl.viewport(0, 0, size.width, size.height);
    gl.disable(gl.BLEND);
    gl.useProgram(this.program.program);
    const set = this.program.uniformSetters as Record<string, (value: unknown) => void>;
    const shade = this.shadeOf(finish, size);
    for (const { area, corners, gain } of finish) {
      const map = corners && inverse(squareTo(pulled(area, corners)));
      set.u_picture?.(picture);
      set.u_shade?.(shade);
      gl.activeTexture(gl.TEXTURE0);
      set.u_flip?.(1);
      set.u_target?.([area.x / size.width, area.y / size.height, area.width / size.width, area.height / size.height]);
      set.u_size?.([size.width, size.height]);
      set.u_area?.([area.x, area.y, area.width, area.height]);
      set.u_pulled?.(map ? 1 : 0);
      set.u_map?.(columns(map ?? [1, 0, 0, 0, 1, 0, 0, 0, 1]));
      set.u_gain?.(gain ? [gain.red, gain.green, gain.blue] : [1, 1, 1]);
      gl.drawArrays(gl.TRIANGLE_STRIP, 0, 4);
    }
  }

  /** How much stays of every pixel in red, how far black is lifted in green. */
  private shadeOf(finish: NonNullable<OutputFinish>, size: Raster): WebGLTexture {
    const { gl } = this;
    const key = `${size.width}×${size.height} ${JSON.stringify(finish)}`;
    const known = this.shades.get(key);
    if (known) {
      gl.bindTexture(gl.TEXTURE_2D, known);
      return known;
    }
    const texture = createTexture(gl);
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RG8, size.width, size.height, 0, gl.RG, gl.UNSIGNED_BYTE, shadeBytes(finish, size));
    this.shades.set(key, texture);
    const [oldest] = this.shades;
    if (this.shades.size > MOST_KEPT && oldest) {
      gl.deleteTexture(oldest[1]);
      this.shades.delete(oldest[0]);
    }
    return texture;
  }
}

function shadeBytes(finish: readonly AreaFinish[], { width, height }: Raster): Uint8Array {
  const bytes = new Uint8Array(width * height * 2);
  for (let i = 0; i < bytes.length; i += 2) bytes[i] = 255;
  const put = (x: number, y: number, stays: number, lift: number) => {
    if (x < 0 || y < 0 || x >= width || y >= height) return;
    bytes.set([stays, lift], (y * width + x) * 2);
  };
  for (const one of finish) {
    for (const shade of shadesOf(one))
      for (let y = 0, i = 0; y < shade.height; y += 1)
        for (let x = 0; x < shade.width; x += 1, i += 1) {
          const at = ((shade.y + y) * width + shade.x + x) * 2;
          // Where three overlap, each pair has its shade: all are of the same light.
          put(shade.x + x, shade.y + y, Math.min(bytes[at] ?? 255, shade.stays[i] as number), shade.lift[i] as number);
        }
    for (const mask of one.masks)
      for (let y = Math.round(mask.y); y < Math.round(mask.y + mask.height); y += 1)
        for (let x = Math.round(mask.x); x < Math.round(mask.x + mask.width); x += 1) put(x, y, 0, 0);
  }
  return bytes;
}

/** A matrix as WebGL takes it: column by column. */
const columns = ([a, b, c, d, e, f, g, h, i]: Homography): number[] => [a, d, g, b, e, h, c, f, i];
