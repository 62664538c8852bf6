/** The command by which the engine tells how large words are, in boxes that grow. */
import { defineCommand } from '../commands/command';
import { ListOf, Num, Text } from '../schema/fields';
import { MOST_SIZES } from './growing';

class SizeField {
  @Text(40, 'what is set there, as a key', { min: 1 }) key!: string;
  @Num(0, 1e6, 'width, pixels of the graphic’s raster') width!: number;
  @Num(0, 1e6, 'height, pixels of the graphic’s raster') height!: number;
}
class SizesArgs {
  @ListOf(() => SizeField, MOST_SIZES, 'all sizes that are known') sizes!: SizeField[];
}

export const sizeCommands = [
  defineCommand({
    type: 'graphic.sizes',
    title: 'Tell how large words are',
    about: 'Sent by the engine, which has the fonts, so that boxes that grow are the same everywhere.',
    args: SizesArgs,
    fromEngine: true,
    run: ({ air }, { sizes }) => {
      air.graphics.sizes = Object.fromEntries(sizes.map(({ key, width, height }) => [key, { width, height }]));
    },
  }),
];
