/** Commands for fonts of one's own. */
import { CommandError, defineCommand } from '../commands/command';
import { remove } from '../desk/remove';
import { Ref, Text } from '../schema/fields';
import { FAMILIES } from './families';

class AddArgs {
  @Text(80, 'family, as texts name it', { min: 1 }) family!: string;
  @Ref('asset', 'asset that holds the bytes') assetId!: string;
  @Text(256, 'name of the file') fileName!: string;
}
class FontArg {
  @Ref('font', 'font') font!: string;
}

const MOST_FONTS = 100;

export const fontCommands = [
  defineCommand({
    type: 'font.add',
    title: 'Bring a font in',
    about:
      'Adds a font file (TTF, OTF, WOFF2) under a family name. One that has the name of another takes its place; names of families that ship are refused. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { family, assetId, fileName }, { newId }) => {
      const { fonts } = show.graphics;
      if (FAMILIES.some((f) => f.family === family))
        throw new CommandError('twice', `${family} ships with Bivoca already. Give the font another name.`, 'family');
      const known = fonts.find((f) => f.family === family);
      if (known) {
        Object.assign(known, { assetId, fileName });
        return { id: known.id };
      }
      if (fonts.length >= MOST_FONTS) throw new CommandError('too-many', `A show holds at most ${MOST_FONTS} fonts of its own.`);
      const font = { id: newId(), family, assetId, fileName };
      fonts.push(font);
      return { id: font.id };
    },
  }),
  defineCommand({
    type: 'font.remove',
    title: 'Remove a font',
    about: 'Texts that name it are set in a plain one from their next drawing on.',
    args: FontArg,
    run: (desk, { font }) => {
      if (!desk.show.graphics.fonts.some((f) => f.id === font))
        throw new CommandError('unknown-font', `There is no font "${font}" in this show.`, 'font');
      remove(desk, 'font', font);
    },
  }),
];
