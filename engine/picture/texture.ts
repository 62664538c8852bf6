/** A picture on the graphics side: planes or one raw texture, always premultiplied, with how to read its colours. */

import { conversion } from '#core/picture/colour';

export type Layout = 'rgba' | 'bgra' | 'i420' | 'nv12';

export interface Picture {
  layout: Layout;
  width: number;
  height: number;
  opaque: boolean;
  planes: WebGLTexture[];
  /** Smaller copies of the planes have been made since they were last filled. */
  reduced?: boolean;
  /** Y′CbCr to R′G′B′ in columns, then the offset; null for RGB layouts. */
  colour: { matrix: Float32Array; offset: Float32Array } | null;
}

/** Formats whose bytes are uploaded as they are, without a conversion. */
const RAW_LAYOUTS: Record<string, Layout> = {
  I420: 'i420',
  NV12: 'nv12',
  RGBA: 'rgba',
  RGBX: 'rgba',
  BGRA: 'bgra',
  BGRX: 'bgra',
};

/** How a source's texture is filled: by raw planes, or by handing the frame to the driver. */
export type UploadPath = 'planes' | 'frame';

interface PlaneShape {
  width: number;
  height: number;
  internal: number;
  format: number;
  bytes: number;
}

function planeShapes(gl: WebGL2RenderingContext, layout: Layout, width: number, height: number): PlaneShape[] {
  const half = { width: (width + 1) >> 1, height: (height + 1) >> 1 };
  const r8 = { internal: gl.R8, format: gl.RED, bytes: 1 };
  if (layout === 'i420')
    return [
      { width, height, ...r8 },
      { ...half, ...r8 },
      { ...half, ...r8 },
    ];
  if (layout === 'nv12')
    return [
      { width, height, ...r8 },
      { ...half, internal: gl.RG8, format: gl.RG, bytes: 2 },
    ];
  return [{ width, height, internal: gl.RGBA8, format: gl.RGBA, bytes: 4 }];
}

export function createTexture(gl: WebGL2RenderingContext): WebGLTexture {
  const texture = gl.createTexture();
  if (!texture) throw new Error('The graphics driver gave no texture.');
  gl.bindTexture(gl.TEXTURE_2D, texture);
  for (const key of [gl.TEXTURE_WRAP_S, gl.TEXTURE_WRAP_T]) gl.texParameteri(gl.TEXTURE_2D, key, gl.CLAMP_TO_EDGE);
  for (const key of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER]) gl.texParameteri(gl.TEXTURE_2D, key, gl.LINEAR);
  return texture;
}

/** One source's texture, filled again and again from its frames. */
export class FrameTexture {
  picture: Picture | null = null;
  private bytes = new Uint8Array(0);
  private shape = '';

  constructor(private readonly gl: WebGL2RenderingContext) {}

  /** Fills the texture from `frame`; the frame stays the caller's. */
  async fill(frame: VideoFrame, path: UploadPath): Promise<void> {
    // Transparent frames are not multiplied by their alpha: the driver does that.
    const layout = path === 'planes' && frame.format && !frame.format.endsWith('A') ? RAW_LAYOUTS[frame.format] : undefined;
    if (layout) await this.fillPlanes(frame, layout);
    else this.fillWhole(frame);
  }

  private async fillPlanes(frame: VideoFrame, layout: Layout): Promise<void> {
    const rect = frame.visibleRect;
    const width = rect?.width ?? frame.codedWidth;
    const height = rect?.height ?? frame.codedHeight;
    const size = frame.allocationSize();
    if (this.bytes.length < size) this.bytes = new Uint8Array(size);
    const places = await frame.copyTo(this.bytes);
    const { gl } = this;
    const shapes = planeShapes(gl, layout, width, height);
    const fresh = this.reshape(`${layout} ${width}×${height}`, shapes.length);
    shapes.forEach((plane, i) => {
      const place = places[i];
      if (!place) return;
      gl.bindTexture(gl.TEXTURE_2D, this.picture?.planes[i] ?? null);
      gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
      gl.pixelStorei(gl.UNPACK_ROW_LENGTH, place.stride / plane.bytes);
      const view = this.bytes.subarray(place.offset);
      if (fresh) gl.texImage2D(gl.TEXTURE_2D, 0, plane.internal, plane.width, plane.height, 0, plane.format, gl.UNSIGNED_BYTE, view);
      else gl.texSubImage2D(gl.TEXTURE_2D, 0, 0, 0, plane.width, plane.height, plane.format, gl.UNSIGNED_BYTE, view);
    });
    gl.pixelStorei(gl.UNPACK_ROW_LENGTH, 0);
    const yuv = layout === 'i420' || layout === 'nv12';
    Object.assign(this.picture as Picture, {
      reduced: false,
      layout,
      width,
      height,
      opaque: yuv || frame.format?.endsWith('X'),
      colour: yuv ? conversion(frame.colorSpace.matrix, frame.colorSpace.fullRange ?? false) : null,
    });
  }

  /** Fills from anything the driver can convert by itself. */
  fillWhole(image: VideoFrame | ImageBitmap | OffscreenCanvas | ImageData): void {
    const { gl } = this;
    const isFrame = 'displayWidth' in image;
    const width = isFrame ? image.displayWidth : image.width;
    const height = isFrame ? image.displayHeight : image.height;
    this.reshape(`whole ${width}×${height}`, 1);
    gl.bindTexture(gl.TEXTURE_2D, this.picture?.planes[0] ?? null);
    gl.pixelStorei(gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL, true);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA8, gl.RGBA, gl.UNSIGNED_BYTE, image as TexImageSource);
    gl.pixelStorei(gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL, false);
    const opaque = isFrame && (image.format === null || !/A$/.test(image.format));
    Object.assign(this.picture as Picture, { reduced: false, layout: 'rgba', width, height, opaque, colour: null });
  }

  /** Makes new planes when the shape has changed; true when it did. */
  private reshape(shape: string, count: number): boolean {
    if (this.shape === shape && this.picture) return false;
    this.dispose();
    this.shape = shape;
    const planes = Array.from({ length: count }, () => createTexture(this.gl));
    this.picture = { layout: 'rgba', width: 1, height: 1, opaque: true, planes, colour: null };
    return true;
  }

  dispose(): void {
    for (const plane of this.picture?.planes ?? []) this.gl.deleteTexture(plane);
    this.picture = null;
    this.shape = '';
  }
}
