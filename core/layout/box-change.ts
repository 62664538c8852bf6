/** The fields of a box that a command may change, to be added to the arguments that say which boxes. */
import { type Constructor, Flag, Nested, Num, OneOf, Text, Variant } from '../schema/fields';
import { type Rect, RectField } from '../show/geometry';
import { Border, BoxContent, type Fit, FITS, Shadow } from './document';
import { Crop, type Key, keyClass, MOST_ZOOM } from './look';

/** Arguments `Base` with all that a box may be given, each of it optional. */
export function withBoxChange<T extends Constructor>(Base: T) {
  class Changed extends (Base as Constructor) {
    @Text(60, 'name', { min: 1, optional: true }) name?: string;
    @Nested(() => BoxContent, 'what it shows', { optional: true, nullable: true }) content?: BoxContent | null;
    @Nested(() => RectField, 'place on the raster', { optional: true }) rect?: Rect;
    @Nested(() => Crop, 'cut away from the picture', { optional: true }) crop?: Crop;
    @OneOf(FITS, 'how the picture meets the box', { optional: true }) fit?: Fit;
    @Num(1, MOST_ZOOM, 'zoom inside the box', { optional: true }) zoom?: number;
    @Num(-1, 1, 'part shown, −1 left to 1 right', { optional: true }) panX?: number;
    @Num(-1, 1, 'part shown, −1 top to 1 bottom', { optional: true }) panY?: number;
    @Num(-360, 360, 'rotation, degrees clockwise', { optional: true }) rotation?: number;
    @Num(0, 4000, 'corner radius, pixels', { optional: true }) radius?: number;
    @Nested(() => Border, 'border', { optional: true }) border?: Border;
    @Nested(() => Shadow, 'shadow', { optional: true }) shadow?: Shadow;
    @Num(0, 1, 'opacity', { optional: true }) opacity?: number;
    @Variant(keyClass, 'key', { optional: true, nullable: true }) key?: Key | null;
    @Flag('shown', { optional: true }) visible?: boolean;
    @Flag('protected from edits', { optional: true }) locked?: boolean;
  }
  return Changed as unknown as new () => InstanceType<T> & InstanceType<typeof Changed>;
}
