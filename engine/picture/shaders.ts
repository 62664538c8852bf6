/** GLSL of the mixer. One small program for each texture layout, plain or masked by a wipe; all compiled at start. */
import { type Layout } from './texture';

export const VERTEX = `#version 300 es
// A quad by gl_VertexID: no buffers. u_target is x, y, width, height in 0..1 of the raster, origin at the top left.
uniform vec4 u_target;
uniform float u_flip;
out vec2 v_uv;
out vec2 v_raster;
void main() {
  vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
  v_uv = corner;
  v_raster = u_target.xy + corner * u_target.zw;
  vec2 clip = v_raster * 2.0 - 1.0;
  gl_Position = vec4(clip.x, clip.y * u_flip, 0.0, 1.0);
}`;

const SAMPLE: Record<Layout, string> = {
  rgba: 'vec4 picture(vec2 uv) { return texture(u_plane0, uv); }',
  bgra: 'vec4 picture(vec2 uv) { return texture(u_plane0, uv).bgra; }',
  i420: `uniform sampler2D u_plane1; uniform sampler2D u_plane2; uniform mat3 u_matrix; uniform vec3 u_offset;
vec4 picture(vec2 uv) {
  vec3 ycc = vec3(texture(u_plane0, uv).r, texture(u_plane1, uv).r, texture(u_plane2, uv).r);
  return vec4(clamp(u_matrix * ycc + u_offset, 0.0, 1.0), 1.0);
}`,
  nv12: `uniform sampler2D u_plane1; uniform mat3 u_matrix; uniform vec3 u_offset;
vec4 picture(vec2 uv) {
  vec3 ycc = vec3(texture(u_plane0, uv).r, texture(u_plane1, uv).rg);
  return vec4(clamp(u_matrix * ycc + u_offset, 0.0, 1.0), 1.0);
}`,
};

/** The wipe of core's `wipeCoverage`, word for word. u_wipe is position, softness; u_along picks u, v and direction. */
const MASK = `uniform vec2 u_wipe; uniform vec3 u_along;
float coverage() {
  float along = dot(vec3(v_raster, 1.0), u_along);
  float soft = max(u_wipe.y, 1e-4);
  return clamp((u_wipe.x * (1.0 + soft) - along) / soft, 0.0, 1.0);
}`;

/** Fragment shader for a layout; with `masked`, under a wipe. */
export function fragmentShader(layout: Layout, masked: boolean): string {
  return `#version 300 es
precision highp float;
in vec2 v_uv; in vec2 v_raster; out vec4 colour;
uniform sampler2D u_plane0; uniform float u_opacity;
${SAMPLE[layout]}
${masked ? MASK : ''}
void main() { colour = picture(v_uv) * u_opacity${masked ? ' * coverage()' : ''}; }`;
}

export const FILL_FRAGMENT = `#version 300 es
precision mediump float;
uniform vec4 u_colour; out vec4 colour;
void main() { colour = u_colour; }`;
