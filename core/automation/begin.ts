/** Starts steps: those of a macro, or of whatever else is written as steps. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { plainCopy } from '../schema/plain-copy';
import { type Run } from './air';
import { filledSteps, givenValues } from './asked';
import { type Macro } from './document';

/** A press starts a macro two frames later than it could be seen: so its first steps reach the mixer in time. */
export const START_FRAMES = 2;

/** Macros that run at a time. */
const MOST_RUNS = 100;
/** Macros that one press may start by way of each other. */
const DEEPEST = 16;

/**
 * Starts a macro at a frame as the run `id`, for another run where that does it, with what it asks for. @throws CommandError when it has no steps
 * that are on, something that it asks for is missing, or so many run already.
 */
export function begin(
  desk: Desk,
  macro: Macro,
  by: Run | undefined,
  frame: number,
  id: string,
  given: Record<string, unknown> = {},
): string {
  if (!macro.steps.some((s) => s.on)) throw new CommandError('too-few', `${macro.name} has no steps that are on.`, 'macro');
  const { runs } = desk.air.automation;
  if (Object.keys(runs).length >= MOST_RUNS)
    throw new CommandError('too-many', `${MOST_RUNS} macros run already. Stop some of them first.`);
  const path = by ? [...by.path, by.macroId] : [];
  if (path.includes(macro.id) || path.length >= DEEPEST)
    throw new CommandError('macro-circle', `${macro.name} is started by itself, by way of ${by?.name ?? 'others'}.`, 'macro');
  const values = givenValues(desk.show, macro, given);
  runs[id] = {
    id,
    macroId: macro.id,
    name: macro.name,
    colour: macro.colour,
    steps: filledSteps(plainCopy(macro.steps.filter((s) => s.on)), values),
    onFailure: macro.onFailure,
    fallbackId: macro.fallbackId,
    start: frame,
    index: 0,
    since: frame,
    pressed: null,
    pausedAt: null,
    stepping: false,
    path,
    refused: [],
    late: 0,
  };
  return id;
}
