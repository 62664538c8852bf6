/**
 * Lengths as technicians write them: metres, centimetres, millimetres, feet and inches, pixels of the canvas, a share of something; with
 * arithmetic. A length is millimetres; a pixel of the canvas measures `pitch` millimetres.
 */
import { ArithmeticError, evaluate } from '../time/arithmetic';

/** Millimetres of each unit; an inch is 25.4 mm exactly (international yard and pound agreement, 1959). */
const MM: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: 25.4,
  inch: 25.4,
  inches: 25.4,
  '"': 25.4,
  '″': 25.4,
  ft: 304.8,
  foot: 304.8,
  feet: 304.8,
  "'": 304.8,
  '′': 304.8,
};

const NUMBER = String.raw`\d+(?:[.,]\d+)?|[.,]\d+`;
/** Inches are written as they come from a tape: 9, 9.5, 9 3/4, 3/4. */
const INCHES = String.raw`(?:(${NUMBER})\s+)?(\d+)\s*/\s*(\d+)|(${NUMBER})`;
const FEET_AND_INCHES = new RegExp(String.raw`(${NUMBER})\s*(?:ft|feet|foot|'|′)\s*(?:${INCHES})\s*(?:in(?:ch(?:es)?)?|"|″)`, 'g');
const FRACTION_INCHES = new RegExp(String.raw`(?:(${NUMBER})\s+)?(\d+)\s*/\s*(\d+)\s*(?:in(?:ch(?:es)?)?|"|″)`, 'g');
const WITH_UNIT = new RegExp(String.raw`(${NUMBER})\s*(px|mm|cm|m|inches|inch|in|feet|foot|ft|["″'′])(?![A-Za-z])`, 'g');
const BARE = new RegExp(String.raw`[A-Za-z]+`);

const numberOf = (text: string | undefined): number => Number((text ?? '0').replace(',', '.'));

/** What a number without a unit means. */
export type Bare = 'px' | 'mm' | 'm' | 'ft';

/**
 * The millimetres of what is written. `bare` is the unit of numbers without one, `whole` what 100 % means, millimetres.
 * @throws ArithmeticError with the cause in words
 */
export function parseLength(text: string, { pitch, bare, whole = 0 }: { pitch: number; bare: Bare; whole?: number }): number {
  if (text.length > 200) throw new ArithmeticError('That is longer than any length.');
  const perBare = bare === 'px' ? pitch : (MM[bare] as number);
  let units = 0;
  // Everything becomes numbers of the bare unit; what has none stays as it is.
  const own = (mm: number): string => {
    units += 1;
    return ` ${(mm / perBare).toFixed(9)} `;
  };
  const inches = (whole_: string | undefined, top: string | undefined, under: string | undefined, plain?: string) =>
    plain !== undefined ? numberOf(plain) : numberOf(whole_) + numberOf(top) / numberOf(under);
  const plain = text
    .trim()
    .replace(FEET_AND_INCHES, (_, feet: string, w?: string, top?: string, under?: string, simple?: string) =>
      own(numberOf(feet) * 304.8 + inches(w, top, under, simple) * 25.4),
    )
    .replace(FRACTION_INCHES, (_, w?: string, top?: string, under?: string) => own(inches(w, top, under) * 25.4))
    .replace(WITH_UNIT, (_, n: string, unit: string) => own(numberOf(n) * (unit === 'px' ? pitch : (MM[unit] as number))));
  const unknown = BARE.exec(plain);
  if (unknown)
    throw new ArithmeticError(`“${unknown[0]}” is no unit: write m, cm, mm, ft, in or px${units > 0 ? '' : `, or nothing for ${bare}`}.`);
  const value = evaluate(plain, whole / perBare) * perBare;
  if (!Number.isFinite(value)) throw new ArithmeticError('That is no length.');
  return value;
}

/** Metres, to the millimetre: "3.60 m". */
export const inMetres = (mm: number): string => {
  const text = (mm / 1000).toFixed(3);
  return `${text.endsWith('0') ? text.slice(0, -1) : text} m`;
};

/** Feet and inches, to the sixteenth of an inch: 11′ 9 3/4″. */
export function inFeet(mm: number): string {
  const sixteenths = Math.round((Math.abs(mm) / 25.4) * 16);
  const feet = Math.floor(sixteenths / 192);
  const inches = Math.floor((sixteenths % 192) / 16);
  let [top, under] = [sixteenths % 16, 16];
  while (top > 0 && top % 2 === 0) [top, under] = [top / 2, under / 2];
  const fraction = top > 0 ? `${top}/${under}` : '';
  const rest = [inches > 0 || fraction === '' ? String(inches) : '', fraction].filter((t) => t !== '').join(' ');
  return `${mm < 0 && sixteenths > 0 ? '−' : ''}${feet > 0 ? `${feet}′ ` : ''}${rest}″`;
}

export const LENGTH_UNITS = ['m', 'ft', 'px'] as const;
/** What lengths are written in. */
export type LengthUnit = (typeof LENGTH_UNITS)[number];

/** A length of so many pixels of the canvas. */
export function lengthWords(pixels: number, pitch: number, unit: LengthUnit): string {
  if (unit === 'px') return `${Number(pixels.toFixed(2))} px`;
  return unit === 'm' ? inMetres(pixels * pitch) : inFeet(pixels * pitch);
}
