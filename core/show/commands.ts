/** Commands for the show as a whole. */
import { CommandError, defineCommand } from '../commands/command';
import { Nested, Text } from '../schema/fields';
import { Raster } from './raster';
import { type Show } from '../desk/show';

class RenameArgs {
  @Text(120, 'name', { min: 1 }) name!: string;
}
class RasterArgs {
  @Nested(() => Raster, 'picture size') raster!: Show['raster'];
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
      'Changes the raster. Refused while recording or streaming: their raster never changes under them. The rate is set when a show is made.',
    args: RasterArgs,
    run: ({ show, air }, { raster }) => {
      if (air.recording || air.stream) {
        throw new CommandError('output-running', 'Stop recording and stream before changing the picture size.');
      }
      if (raster.width % 2 !== 0 || raster.height % 2 !== 0) {
        throw new CommandError('odd-raster', 'Width and height must be even.', 'raster');
      }
      show.raster = { ...raster };
    },
  }),
];
