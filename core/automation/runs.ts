/** How macros run: which steps are due at which frame. Pure: whoever runs a show asks this at every frame, and does what it says. */
import { type Command } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Run } from './air';
import { type Step } from './document';
import { waitFrames, WAITS } from './waits';

/** Frame at which the next step of a run is due: never before it came to it. Null while it is paused, or waits for what nobody can tell yet. */
export function dueFrame(desk: Desk, run: Run): number | null {
  if (run.pausedAt !== null) return null;
  const act = run.steps[run.index]?.act;
  if (!act || act.kind === 'command') return run.since;
  if (act.kind === 'wait') return run.since + waitFrames(act, desk.show.rate);
  const end = WAITS[act.event].ends(desk, act, run);
  return end === null ? null : Math.max(end, run.since);
}

/** Steps that are done together, all or none. */
export interface Unit {
  commands: Command[];
  /** Step that comes after them. */
  to: number;
}

const commandsOf = (run: Run, step: Step): Command[] => {
  if (step.act.kind !== 'command') return [];
  const { type, args } = step.act;
  // A macro that a macro starts knows its way.
  return [type === 'macro.run' ? { type, args: { ...args, by: run.id } } : { type, args }];
};

/** The units of a run from its next step to its next wait; a wait that is over is a unit of no commands. */
export function unitsOf(run: Run): Unit[] {
  const first = run.steps[run.index];
  if (first && first.act.kind !== 'command') return [{ commands: [], to: run.index + 1 }];
  const units: Unit[] = [];
  for (let i = run.index; i < run.steps.length; i += 1) {
    const step = run.steps[i] as Step;
    if (step.act.kind !== 'command') break;
    const last = units.at(-1);
    if (last && step.joined) {
      last.commands.push(...commandsOf(run, step));
      last.to = i + 1;
    } else units.push({ commands: commandsOf(run, step), to: i + 1 });
  }
  return run.stepping ? units.slice(0, 1) : units;
}

/** What is to be done next: the units of the run whose step is due first, up to a frame; of several at once the one that was started first. */
export interface Due {
  run: Run;
  frame: number;
  units: Unit[];
}

/** The next that is due up to `limit`; null when nothing is. A run at its end is due too, with no units: it goes. */
export function nextDue(desk: Desk, limit: number): Due | null {
  let found: { run: Run; frame: number } | null = null;
  for (const run of Object.values(desk.air.automation.runs)) {
    const frame = dueFrame(desk, run);
    if (frame !== null && frame <= limit && (!found || frame < found.frame)) found = { run, frame };
  }
  return found && { ...found, units: unitsOf(found.run) };
}

/** What a run waits for, for those who watch it: frames left as far as they are known. */
export function leftOf(desk: Desk, run: Run, frame: number): number | null {
  const due = dueFrame(desk, run);
  return due === null ? null : Math.max(0, due - frame);
}
