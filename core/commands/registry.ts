/** Every command there is. */
import { mediaCommands } from '../media/commands';
import { outputCommands } from '../output/commands';
import { laneCommands } from '../picture/lane-commands';
import { pictureCommands } from '../picture/commands';
import { cardCommands } from '../show/card-commands';
import { showCommands } from '../show/commands';
import { sourceCommands } from '../show/source-commands';
import { soundCommands } from '../sound/commands';
import { type CommandSpec } from './command';

/** All commands in the order of the reference. */
export const COMMANDS: readonly CommandSpec[] = [
  ...pictureCommands,
  ...laneCommands,
  ...cardCommands,
  ...mediaCommands,
  ...sourceCommands,
  ...soundCommands,
  ...outputCommands,
  ...showCommands,
];

const byType = new Map(COMMANDS.map((spec) => [spec.type, spec]));

export const findCommand = (type: string): CommandSpec | undefined => byType.get(type);
