/** By what the demo show is known, and the size that it is drawn for: apart from the demo itself, which is large. */
import { type Raster } from '#core/show/raster';

export const DEMO_NAME = 'Skerry Point Kite Trials';
export const DEMO_RASTER: Raster = { width: 1280, height: 720 };
