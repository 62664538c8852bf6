/** Colour correction. Y′ goes through a curve; chroma is scaled, and white balance leans it in step with Y′. */
import { type Grade } from '../layout/look';
import { type Ycc } from './key';

/** How far full warmth or tint leans the chroma of white. */
export const LEAN = 0.08;

/** Y′ after lift, gain and gamma, 0 to 1: (lift · (1 − y) + gain · y) to the power of 1 / gamma. */
export function gradeLuma(y: number, { lift, gamma, gain }: Grade): number {
  return Math.min(1, Math.max(0, lift * (1 - y) + gain * y)) ** (1 / gamma);
}

/** The whole correction of a pixel. */
export function gradePixel([y, cb, cr]: Ycc, grade: Grade): Ycc {
  const luma = gradeLuma(y, grade);
  const lean = LEAN * luma;
  return [luma, cb * grade.saturation + (grade.tint - grade.warmth) * lean, cr * grade.saturation + (grade.tint + grade.warmth) * lean];
}

export const isPlainGrade = (g: Grade): boolean =>
  g.lift === 0 && g.gamma === 1 && g.gain === 1 && g.saturation === 1 && g.warmth === 0 && g.tint === 0;
