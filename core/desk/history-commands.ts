/** Undo and redo as commands: they stand in the registry like all others, and go through the history instead of changing a draft. */
import { CommandError, defineCommand } from '../commands/command';
import { Anyway } from '../sound/edit';

class StepArgs {
  @Anyway() anyway?: boolean;
}

const alone = () => {
  throw new CommandError('alone', 'Undo and redo stand alone: they cannot be one of several commands.');
};

export const historyCommands = [
  defineCommand({
    type: 'history.undo',
    title: 'Undo',
    about:
      'One edit of the show back. Air is never undone: the audience has seen it. Refused when it would take something off air, and, unless `anyway`, when it is another person’s. Returns its `title`.',
    args: StepArgs,
    step: 'undo',
    run: alone,
  }),
  defineCommand({
    type: 'history.redo',
    title: 'Redo',
    about: 'One edit of the show forward again, refused as `history.undo` is. Returns its `title`.',
    args: StepArgs,
    step: 'redo',
    run: alone,
  }),
];
