/** Commands for the show as a whole. */
import { CommandError, defineCommand } from '../commands/command';
import { scaleLook, scaleRect, type Scale } from '../layout/scale';
import { Flag, Nested, Text } from '../schema/fields';
import { Raster } from './raster';
import { type Show } from '../desk/show';

class RenameArgs {
  @Text(120, 'name', { min: 1 }) name!: string;
}
class RasterArgs {
  @Nested(() => Raster, 'picture size') raster!: Show['raster'];
  @Flag('false leaves boxes, lanes and styles at their pixels; without it they keep their share of the picture', { optional: true })
  scale?: boolean;
}

/** Everything that is measured in pixels of the picture. */
function scaleShow(show: Show, by: Scale): void {
  for (const layout of [...show.layouts, ...show.presets]) layout.boxes = layout.boxes.map((box) => scaleLook(box, by));
  for (const style of show.styles) style.look = scaleLook(style.look, by);
  for (const lane of show.lanes) if (lane.rect) lane.rect = scaleRect(lane.rect, by);
}

export const showCommands = [
  defineCommand({
    type: 'show.rename',
    title: 'Rename the show',
    about: 'Gives the show another name.',
    args: RenameArgs,
    mergeKey: () => 'rename',
    run: ({ show }, { name }) => {
      show.name = name;
    },
  }),
  defineCommand({
    type: 'show.setRaster',
    title: 'Set the picture size',
    about:
      'Changes the raster. Boxes, styles and lanes keep their share of the picture, unless `scale` is false. Refused while recording or streaming: their raster never changes under them. The rate is set when a show is made.',
    args: RasterArgs,
    hold: ({ air }) => air.onAirId !== null,
    run: ({ show, air }, { raster, scale = true }) => {
      if (air.recording || air.stream) {
        throw new CommandError('output-running', 'Stop recording and stream before changing the picture size.');
      }
      if (raster.width % 2 !== 0 || raster.height % 2 !== 0) {
        throw new CommandError('odd-raster', 'Width and height must be even.', 'raster');
      }
      if (scale) scaleShow(show, { x: raster.width / show.raster.width, y: raster.height / show.raster.height });
      show.raster = { ...raster };
    },
  }),
];
