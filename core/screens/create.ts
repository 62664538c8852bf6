/** New outputs. */
import { type ScreenOutput, type Screens } from './document';

export const createScreens = (): Screens => ({ outputs: [], surfaces: [], presets: [] });

export const createOutput = (id: string, name: string, change: Partial<ScreenOutput> = {}): ScreenOutput => ({
  id,
  name,
  raster: null,
  frameStep: 1,
  shows: { kind: 'clean' },
  display: '',
  ...change,
});
