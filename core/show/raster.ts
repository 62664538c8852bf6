/** Size and rate of a picture as they are saved. */
import { Whole } from '../schema/fields';
import { type Rate } from '../time/rate';

export class Raster {
  @Whole(16, 7680, 'width in pixels, even') width!: number;
  @Whole(16, 4320, 'height in pixels, even') height!: number;
}

export class RateField implements Rate {
  @Whole(1, 240000, 'numerator') num!: number;
  @Whole(1, 1001, 'denominator') den!: number;
}
