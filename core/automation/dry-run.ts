/** A macro tried dry: on a copy of the show, in core alone. Nothing goes to air. */
import { type Desk } from '../desk/air';
import { execute } from '../desk/execute';
import { asksForHold } from '../desk/registry';
import { looksOf, type PicturePlan } from '../picture/draw';
import { createAutomationAir, type Run } from './air';
import { trialValues } from './asked';
import { type Macro } from './document';
import { mayLookOther, pictureAfter } from './dry-picture';
import { nextDue } from './runs';
import { altersAir } from './seen';
import { changesOf } from './stand';

/** What a step comes to. */
export interface DryLine {
  stepId: string;
  /** The macro whose step it is: another one, where that was started. */
  macroId: string;
  /** Frame at which it falls, from the beginning of the run. */
  frame: number;
  /** What changes, in words; none where nothing does. */
  changes: string[];
  /** Why it was refused; null when it was done. */
  refused: string | null;
  /** The audience sees it at once: it alters what is on air. */
  seen: boolean;
  /** It waits for what cannot be told beforehand, such as a press: as if that came at once. */
  open: boolean;
  /** What the audience would see after it; null where that is as before, or pictures are not asked for. */
  picture: PicturePlan | null;
}

export interface DryRun {
  lines: DryLine[];
  /** The desk after it. */
  desk: Desk;
  /** Frames that it takes. */
  frames: number;
  /** It was cut off: it had too many steps. */
  cut: boolean;
}

/** Steps that are gone through, those of macros that it starts too. */
const MOST_LINES = 5000;

/**
 * Runs a macro on a copy of a desk. Pure: a run comes to the same, step by step, as it would on air. `pictures`: what is seen after each
 * step is worked out too.
 */
export function dryRun(desk: Desk, macro: Macro, frame: number, pictures = false): DryRun {
  let made = 0;
  const context = (at: number) => ({ frame: at, newId: () => `dry-${(made += 1)}` });
  const lines: DryLine[] = [];
  const quiet: Desk = { ...desk, air: { ...desk.air, automation: createAutomationAir() } };
  const begun = execute(quiet, { type: 'macro.run', args: { macro: macro.id, given: trialValues(desk.show, macro) } }, context(frame));
  if (!begun.ok) return { lines, desk: quiet, frames: 0, cut: false };
  let now = begun.desk;
  // It begins a little after the press.
  const first = Object.values(begun.desk.air.automation.runs)[0]?.start ?? frame;
  let at = first;
  let looked = pictures ? looksOf(pictureAfter(quiet, frame)) : '';
  /** What is seen after an act, where that is something else than before. */
  const newPicture = (before: Desk, after: Desk): PicturePlan | null => {
    if (!pictures || !mayLookOther(after, before)) return null;
    const plan = pictureAfter(after, at);
    const looks = looksOf(plan);
    if (looks === looked) return null;
    looked = looks;
    return plan;
  };
  const tell = (type: string, args: Record<string, unknown>) => {
    const told = execute(now, { type, args }, context(at));
    if (told.ok) now = told.desk;
  };
  const add = (run: Run, index: number, line: Partial<DryLine>) => {
    const step = run.steps[index];
    if (step)
      lines.push({
        stepId: step.id,
        macroId: run.macroId,
        frame: at - first,
        changes: [],
        refused: null,
        seen: false,
        open: false,
        picture: null,
        ...line,
      });
  };
  while (lines.length < MOST_LINES) {
    const due = nextDue(now, Infinity);
    if (!due) {
      // What cannot be told beforehand happens at once.
      const waiting = Object.values(now.air.automation.runs)[0];
      if (!waiting) return { lines, desk: now, frames: at - first, cut: false };
      at = Math.max(at, waiting.since);
      add(waiting, waiting.index, { open: true });
      tell('run.did', { run: waiting.id, to: waiting.index + 1, at });
      continue;
    }
    const { run } = due;
    at = Math.max(at, due.frame);
    const [unit] = due.units;
    if (!unit) tell('run.did', { run: run.id, to: run.steps.length, at });
    else if (unit.commands.length === 0) {
      add(run, run.index, {});
      tell('run.did', { run: run.id, to: unit.to, at });
    } else {
      // Together: all are tried, and only then any stands.
      let tried = now;
      const told: [number, Partial<DryLine>][] = [];
      let refused: { index: number; message: string } | null = null;
      for (const [i, command] of unit.commands.entries()) {
        const held = asksForHold(tried, command);
        const done = execute(tried, command, context(at));
        if (!done.ok) {
          refused = { index: run.index + i, message: done.error.message };
          break;
        }
        const seen = held || altersAir(tried, done.patches, at);
        told.push([run.index + i, { changes: changesOf(tried, done.desk, at), seen, picture: newPicture(tried, done.desk) }]);
        tried = done.desk;
      }
      if (refused) {
        add(run, refused.index, { refused: refused.message });
        tell('run.refused', { run: run.id, to: unit.to, at, step: refused.index, message: refused.message.slice(0, 400) });
      } else {
        for (const [index, line] of told) add(run, index, line);
        now = tried;
        tell('run.did', { run: run.id, to: unit.to, at });
      }
    }
  }
  return { lines, desk: now, frames: at - first, cut: true };
}
