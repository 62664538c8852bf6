/** GLSL of the mixer. All programs are compiled at start; the formulas are core's, word for word. */
import { LEAN } from '#core/picture/grade';
import { HARDEST } from '#core/picture/wipe';
import { type Layout } from './texture';

export const VERTEX = `#version 300 es
// A quad by gl_VertexID: no buffers. u_target is x, y, width, height in 0..1 of the raster, origin at the top left.
uniform vec4 u_target;
uniform float u_flip;
out vec2 v_corner;
out vec2 v_raster;
void main() {
  v_corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
  v_raster = u_target.xy + v_corner * u_target.zw;
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

/** A picture or a part of it, upright and as it is. u_window is x, y, width, height of the part; mirrored when negative. */
export const plainFragment = (layout: Layout): string => `#version 300 es
precision highp float;
in vec2 v_corner; in vec2 v_raster; out vec4 colour;
uniform sampler2D u_plane0; uniform float u_opacity; uniform vec4 u_window;
${SAMPLE[layout]}
void main() { colour = picture(u_window.xy + v_corner * u_window.zw) * u_opacity; }`;

/** Where a fragment lies on an item: pixels from its middle before it was turned, and the distance from its outline. */
const OUTLINE = `uniform vec4 u_rect; uniform vec2 u_turn; uniform float u_radius; uniform vec2 u_size; uniform float u_scale;
vec2 inItem() {
  vec2 d = v_raster * u_size - u_rect.xy - u_rect.zw * 0.5;
  return vec2(d.x * u_turn.x + d.y * u_turn.y, d.y * u_turn.x - d.x * u_turn.y);
}
float roundedDistance(vec2 p, vec2 h, float radius) {
  float r = min(radius, min(h.x, h.y));
  vec2 q = abs(p) - h + r;
  return length(max(q, 0.0)) + min(max(q.x, q.y), 0.0) - r;
}
float edge(float distance) { return clamp(0.5 - distance * u_scale, 0.0, 1.0); }`;

/** A picture with outline, colour correction and key. u_key: 0 none, 1 chroma, 2 luma, 3 fill. */
export const shapedFragment = (layout: Layout): string => `#version 300 es
precision highp float;
in vec2 v_corner; in vec2 v_raster; out vec4 colour;
uniform sampler2D u_plane0; uniform float u_opacity; uniform vec4 u_window; uniform bool u_soft;
uniform bool u_graded; uniform vec4 u_grade; uniform vec2 u_lean;
uniform int u_key; uniform vec4 u_chroma; uniform float u_spill; uniform vec4 u_garbage; uniform vec3 u_luma;
uniform sampler2D u_second; uniform bool u_premultiplied; uniform bool u_matte;
${SAMPLE[layout]}
${OUTLINE}
vec3 toYcc(vec3 c) {
  float y = dot(c, vec3(0.2126, 0.7152, 0.0722));
  return vec3(y, (c.b - y) / 1.8556, (c.r - y) / 1.5748);
}
vec3 toRgb(vec3 c) { return vec3(c.x + 1.5748 * c.z, c.x - 0.187324 * c.y - 0.468124 * c.z, c.x + 1.8556 * c.y); }
float lumaAlpha(float y) {
  float alpha = clamp((y - u_luma.x) * u_luma.y, 0.0, 1.0);
  return u_luma.z > 0.5 ? 1.0 - alpha : alpha;
}
void main() {
  vec2 p = inItem();
  vec2 h = u_rect.zw * 0.5;
  float cover = u_soft ? edge(roundedDistance(p, h, u_radius)) : float(p.x >= -h.x && p.x < h.x && p.y >= -h.y && p.y < h.y);
  if (cover <= 0.0) { colour = vec4(0.0); return; }
  vec2 at = (p + h) / u_rect.zw;
  vec2 uv = u_window.xy + at * u_window.zw;
  vec4 c = picture(uv);
  float alpha = c.a;
  vec3 ycc = toYcc(alpha > 0.0 ? c.rgb / alpha : vec3(0.0));
  if (u_graded) {
    float y = pow(clamp(u_grade.x * (1.0 - ycc.x) + u_grade.z * ycc.x, 0.0, 1.0), 1.0 / u_grade.y);
    ycc = vec3(y, ycc.yz * u_grade.w + u_lean * (${LEAN} * y));
  }
  if (u_key == 1) {
    bool inside = uv.x >= u_garbage.x && uv.y >= u_garbage.y && uv.x < 1.0 - u_garbage.z && uv.y < 1.0 - u_garbage.w;
    alpha *= inside ? clamp((distance(ycc.yz, u_chroma.xy) - u_chroma.z) / (u_chroma.w - u_chroma.z), 0.0, 1.0) : 0.0;
    float len = length(u_chroma.xy);
    if (len >= 0.01) ycc.yz -= u_chroma.xy / len * max(0.0, dot(ycc.yz, u_chroma.xy) / len * u_spill);
  } else if (u_key == 2) alpha *= lumaAlpha(ycc.x);
  else if (u_key == 3) {
    float k = lumaAlpha(dot(texture(u_second, uv).rgb, vec3(0.2126, 0.7152, 0.0722)));
    if (u_premultiplied && k > 0.0) ycc /= k;
    alpha *= k;
  }
  vec3 rgb = clamp(toRgb(ycc), 0.0, 1.0);
  if (u_matte) { rgb = vec3(alpha); alpha = 1.0; }
  colour = vec4(rgb, 1.0) * (alpha * cover * u_opacity);
}`;

/** Border (u_width ≥ 0) or shadow (u_width < 0, soft over u_blur) of an item. */
export const OUTLINE_FRAGMENT = `#version 300 es
precision highp float;
in vec2 v_corner; in vec2 v_raster; out vec4 colour;
uniform vec4 u_colour; uniform float u_width; uniform float u_blur; uniform vec2 u_shift;
${OUTLINE}
void main() {
  vec2 p = inItem();
  vec2 h = u_rect.zw * 0.5;
  float distance = roundedDistance(p, h, u_radius);
  float cover;
  if (u_width < 0.0) {
    float soft = max(u_blur, 0.5 / u_scale);
    // Around the box, not into it: u_shift is how far the shadow lies from it.
    vec2 own = p + vec2(u_shift.x * u_turn.x + u_shift.y * u_turn.y, u_shift.y * u_turn.x - u_shift.x * u_turn.y);
    cover = smoothstep(0.0, 1.0, (soft - distance) / (2.0 * soft)) * (1.0 - edge(roundedDistance(own, h, u_radius)));
  } else {
    float inner = u_width >= min(h.x, h.y) ? 0.0 : edge(roundedDistance(p, h - u_width, max(0.0, u_radius - u_width)));
    cover = max(0.0, edge(distance) - inner);
  }
  colour = u_colour * cover;
}`;

/** Two finished pictures by a wipe (u_kind 0 linear, 1 radial, 2 iris, 3 clock, 4 by brightness of u_second) or in linear light (5). */
export const MIX_FRAGMENT = `#version 300 es
precision highp float;
in vec2 v_corner; in vec2 v_raster; out vec4 colour;
uniform sampler2D u_plane0; uniform sampler2D u_plane1; uniform sampler2D u_second;
uniform int u_kind; uniform float u_position; uniform float u_softness; uniform float u_angle; uniform vec2 u_size;
const float TURN = 6.283185307179586;
float turn(vec2 uv) {
  vec2 p = (uv - 0.5) * u_size;
  if (u_kind == 0) {
    vec2 d = vec2(cos(u_angle), sin(u_angle));
    return dot(p, d) / dot(abs(d), u_size) + 0.5;
  }
  if (u_kind == 2) return length(p) / length(u_size * 0.5);
  if (u_kind == 4) return dot(texture(u_second, uv).rgb, vec3(0.2126, 0.7152, 0.0722));
  float t = (atan(p.y, p.x) - u_angle) / TURN;
  return u_kind == 3 ? t - floor(t) : abs(t - floor(t + 0.5)) * 2.0;
}
void main() {
  vec3 a = texture(u_plane0, v_raster).rgb;
  vec3 b = texture(u_plane1, v_raster).rgb;
  if (u_kind == 5) {
    vec3 light = mix(pow(a, vec3(2.4)), pow(b, vec3(2.4)), u_position);
    colour = vec4(pow(light, vec3(1.0 / 2.4)), 1.0);
    return;
  }
  float soft = max(u_softness, ${HARDEST});
  colour = vec4(mix(a, b, clamp((u_position * (1.0 + soft) - turn(v_raster)) / soft, 0.0, 1.0)), 1.0);
}`;

export const FILL_FRAGMENT = `#version 300 es
precision mediump float;
in vec2 v_corner; in vec2 v_raster;
uniform vec4 u_colour; out vec4 colour;
void main() { colour = u_colour; }`;
