/** How a picture is cut, corrected and keyed: the parts that framings and boxes share. */
import { Colour, byKind, Flag, Num, OneOf, Ref } from '../schema/fields';

/** Cut away on four sides, as shares of the picture. */
export class Crop {
  @Num(0, 0.99, 'share cut away at the left') left!: number;
  @Num(0, 0.99, 'share cut away at the top') top!: number;
  @Num(0, 0.99, 'share cut away at the right') right!: number;
  @Num(0, 0.99, 'share cut away at the bottom') bottom!: number;
}

export const NO_CROP: Crop = { left: 0, top: 0, right: 0, bottom: 0 };

/** True when something is left of the picture. */
export const cropLeaves = (c: Crop): boolean => c.left + c.right < 0.995 && c.top + c.bottom < 0.995;

export const MOST_ZOOM = 20;

/** Colour correction, worked in Y′CbCr; see core/picture/grade.ts for the formula. */
export class Grade {
  @Num(-0.5, 0.5, 'lift: moves the dark end, share of full scale') lift!: number;
  @Num(0.2, 5, 'gamma: above 1 brightens the middle') gamma!: number;
  @Num(0, 4, 'gain: moves the bright end') gain!: number;
  @Num(0, 4, 'saturation: 0 grey, 1 as it is') saturation!: number;
  @Num(-1, 1, 'white balance, −1 colder to 1 warmer') warmth!: number;
  @Num(-1, 1, 'white balance, −1 greener to 1 more magenta') tint!: number;
}

export const PLAIN_GRADE: Grade = { lift: 0, gamma: 1, gain: 1, saturation: 1, warmth: 0, tint: 0 };

/** Colours like one colour become transparent. */
export class ChromaKey {
  @OneOf(['chroma'], 'by colour') kind!: 'chroma';
  @Colour('the colour of the backing') colour!: string;
  @Num(0, 1, 'how far a colour may be from the backing and still be taken out') similarity!: number;
  @Num(0, 1, 'how gradually it comes back beyond that') softness!: number;
  @Num(0, 1, 'how much of the backing colour is taken out of what stays') spill!: number;
  @Num(0, 0.99, 'everything is taken out left of this share') garbageLeft!: number;
  @Num(0, 0.99, 'everything is taken out above this share') garbageTop!: number;
  @Num(0, 0.99, 'everything is taken out right of 1 minus this share') garbageRight!: number;
  @Num(0, 0.99, 'everything is taken out below 1 minus this share') garbageBottom!: number;
}

/** Dark places become transparent, or bright ones. */
export class LumaKey {
  @OneOf(['luma'], 'by brightness') kind!: 'luma';
  @Num(0, 1, 'brightness at which it begins to show') clip!: number;
  @Num(0.1, 50, 'how fast it comes in above that') gain!: number;
  @Flag('take the bright places out instead') invert!: boolean;
}

/** The brightness of a second picture says what shows: fill and key. */
export class FillKey {
  @OneOf(['fill'], 'by a second picture') kind!: 'fill';
  @Ref('source', 'source whose brightness is the key', { as: 'key of' }) keyId!: string;
  @Flag('the fill was already multiplied by the key') premultiplied!: boolean;
  @Flag('take the bright places of the key out instead') invert!: boolean;
}

export type Key = ChromaKey | LumaKey | FillKey;

/** The class of a key. */
export const keyClass = byKind<Key['kind']>({ chroma: ChromaKey, luma: LumaKey, fill: FillKey });

export const GREEN_KEY: ChromaKey = {
  kind: 'chroma',
  colour: '#1fa04a',
  similarity: 0.35,
  softness: 0.15,
  spill: 0.6,
  garbageLeft: 0,
  garbageTop: 0,
  garbageRight: 0,
  garbageBottom: 0,
};
