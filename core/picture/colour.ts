/** Colour matrices of video. */

/**
 * Conversion of 8-bit Y′CbCr samples read as 0..1. Source: ITU-R BT.601 and BT.709, Kr and Kb; quantisation of
 * limited range 219/224 steps from 16.
 */
export function conversion(matrix: string | null | undefined, fullRange: boolean): { matrix: Float32Array; offset: Float32Array } {
  const [kr, kb] = matrix === 'smpte170m' || matrix === 'bt470bg' ? [0.299, 0.114] : [0.2126, 0.0722];
  const kg = 1 - kr - kb;
  const y = fullRange ? 1 : 255 / 219;
  const c = fullRange ? 1 : 255 / 224;
  const y0 = fullRange ? 0 : 16 / 255;
  const c0 = 128 / 255;
  const rv = 2 * (1 - kr) * c;
  const bu = 2 * (1 - kb) * c;
  const gu = (-2 * (1 - kb) * kb * c) / kg;
  const gv = (-2 * (1 - kr) * kr * c) / kg;
  return {
    matrix: new Float32Array([y, y, y, 0, gu, bu, rv, gv, 0]),
    offset: new Float32Array([-y * y0 - rv * c0, -y * y0 - (gu + gv) * c0, -y * y0 - bu * c0]),
  };
}
