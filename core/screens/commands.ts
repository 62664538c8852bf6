/** Commands for outputs: which there are, what they show, and what stands in for a moment. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { checkThere } from '../desk/missing';
import { remove } from '../desk/remove';
import { Nested, Ref, Refs, Text, Variant, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { Raster } from '../show/raster';
import { type Over } from './air';
import { createOutput } from './create';
import { MOST_FRAME_STEP, MOST_OUTPUTS, type ScreenOutput, type Shows, overClass, showsClass } from './document';
import { outputOf } from './find';
import { PROGRAMME_OUTPUT } from './outputs';

class AddArgs {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Variant(showsClass, 'what it shows; the clean programme without it', { optional: true }) shows?: Shows;
  @Nested(() => Raster, 'pixels that leave; null for those of the show', { nullable: true, optional: true }) raster?: Raster | null;
}
class OutputArg {
  @Ref('screen', 'output of the show’s own') output!: string;
}
class SetArgs extends OutputArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Variant(showsClass, 'what it shows', { optional: true }) shows?: Shows;
  @Nested(() => Raster, 'pixels that leave; null for those of the show', { nullable: true, optional: true }) raster?: Raster | null;
  @Whole(1, MOST_FRAME_STEP, 'each how many-th frame of the show leaves, 1 for all', { optional: true }) frameStep?: number;
  @Text(200, 'label of the display that its window stands on; empty for a window that is dragged by hand', { optional: true })
  display?: string;
}
class MoveArgs extends OutputArg {
  @Whole(0, MOST_OUTPUTS - 1, 'place in the list, from 0') index!: number;
}
class OverArgs {
  @Refs('screen', MOST_OUTPUTS, 'outputs; none for all of the show’s own') outputs!: string[];
  @Variant(overClass, 'what stands in; null for what they show otherwise', { nullable: true })
  over!: Over | null;
}

/** @throws CommandError when an output is recorded or streamed: its pixels never change under an encoder */
function checkFree({ show, air }: Desk, id: string, what: string): void {
  const used = [
    ...(air.recording && show.output.recording.outputId === id ? ['recording'] : []),
    ...(air.stream && show.output.stream.outputId === id ? ['stream'] : []),
  ];
  if (used.length > 0)
    throw new CommandError('output-running', `It leaves as ${used.join(' and ')} now: stop that before ${what}.`, 'output');
}

/** @throws CommandError when a side is odd: encoders and windows want even ones */
function checkRaster(raster: Raster | null | undefined): void {
  if (raster && (raster.width % 2 !== 0 || raster.height % 2 !== 0))
    throw new CommandError('odd-raster', 'Width and height must be even.', 'raster');
}

const sameRaster = (a: Raster | null, b: Raster | null): boolean => a?.width === b?.width && a?.height === b?.height;

export const screenCommands = [
  defineCommand({
    type: 'screen.add',
    title: 'Add an output',
    about: 'Adds an output that shows the clean programme, unless it is told otherwise. Returns its `id`.',
    args: AddArgs,
    run: (desk, { name, shows, raster }, { newId }) => {
      const { outputs } = desk.show.screens;
      if (outputs.length >= MOST_OUTPUTS) throw new CommandError('too-many', `A show has at most ${MOST_OUTPUTS} outputs of its own.`);
      checkRaster(raster);
      checkThere(desk, AddArgs, { shows });
      const output = createOutput(newId(), name?.trim() || `Output ${outputs.length + 1}`, {
        ...(shows && { shows: plainCopy(shows) }),
        ...(raster !== undefined && { raster: plainCopy(raster) }),
      });
      outputs.push(output);
      return { id: output.id };
    },
  }),
  defineCommand({
    type: 'screen.set',
    title: 'Set up an output',
    says: 'Set up {output}',
    about:
      'Name, what it shows, its pixels, its rate, and where its window stands. Pixels and rate never change while it is recorded or streamed.',
    args: SetArgs,
    mergeKey: ({ output, ...change }) => `output:${output}:${Object.keys(change).join()}`,
    run: (desk, args) => {
      const { output: id, ...change } = args;
      const output = outputOf(desk, id);
      if (change.raster !== undefined && !sameRaster(change.raster, output.raster)) checkFree(desk, id, 'changing its pixels');
      if (change.frameStep !== undefined && change.frameStep !== output.frameStep) checkFree(desk, id, 'changing its rate');
      checkRaster(change.raster);
      checkThere(desk, SetArgs, args);
      Object.assign(output, plainCopy(change) satisfies Partial<ScreenOutput>);
    },
  }),
  defineCommand({
    type: 'screen.move',
    title: 'Move an output in the list',
    about: 'Gives an output another place in the list.',
    args: MoveArgs,
    run: (desk, { output: id, index }) => {
      const output = outputOf(desk, id);
      const rest = desk.show.screens.outputs.filter((o) => o.id !== id);
      rest.splice(index, 0, output);
      desk.show.screens.outputs = rest;
    },
  }),
  defineCommand({
    type: 'screen.remove',
    title: 'Remove an output',
    says: 'Remove {output}',
    about: 'Removes an output; its window goes dark. Recording and stream that would take it take the programme.',
    args: OutputArg,
    run: (desk, { output: id }) => {
      outputOf(desk, id);
      checkFree(desk, id, 'removing it');
      const { recording, stream } = desk.show.output;
      for (const one of [recording, stream]) if (one.outputId === id) one.outputId = PROGRAMME_OUTPUT;
      remove(desk, 'screen', id);
      delete desk.air.screens.over[id];
    },
  }),
  defineCommand({
    type: 'screen.over',
    title: 'Black, a test picture, the card or the last frame in the place of what outputs show',
    about:
      'Outputs show this until it is taken away again; what they show otherwise goes on behind it. It stays off programme and clean programme.',
    args: OverArgs,
    run: (desk, { outputs, over }) => {
      const ids = outputs.length > 0 ? outputs.map((id) => outputOf(desk, id, 'outputs').id) : desk.show.screens.outputs.map((o) => o.id);
      for (const id of ids) {
        if (over) desk.air.screens.over[id] = plainCopy(over);
        else delete desk.air.screens.over[id];
      }
    },
  }),
];
