/** What is wrong with the steps of a macro, found while it is edited. */
import { CommandError } from '../commands/command';
import { prepare } from '../desk/execute';
import { refProblems } from '../desk/missing';
import { type Show } from '../desk/show';
import { REF_TARGETS } from '../schema/kinds';
import { askedNames, filledArgs, trialMap } from './asked';
import { canBeStep } from './record';
import { type Macro, type Step } from './document';
import { findCommand } from '../desk/registry';
import { WAITS } from './waits';

export interface StepProblem {
  stepId: string;
  /** In words: the reason. */
  message: string;
}

/** Why a step can never work as it stands; null when it may. */
function problemOf(show: Show, { act }: Step, asks: Macro['asks'], trial: ReadonlyMap<string, unknown>): string | null {
  if (act.kind === 'wait') return null;
  if (act.kind === 'until') {
    const { of } = WAITS[act.event];
    if (of && act[of.field] === null) return `Choose the ${REF_TARGETS[of.to].words} that it waits for.`;
    if (act.event === 'roll' && act.deck === null) return 'Choose the deck that it waits for.';
    return act.event === 'time' && act.time === null ? 'Say the time of day that it waits for.' : null;
  }
  const spec = findCommand(act.type);
  if (spec && !canBeStep(spec)) return `${spec.title} is nothing that a macro can do.`;
  const unknown = askedNames(act.args).find((name) => !asks.some((a) => a.name === name));
  if (unknown !== undefined) return `The macro does not ask for “${unknown}”.`;
  const args = filledArgs(act.args, trial);
  try {
    prepare({ type: act.type, args });
  } catch (error) {
    if (error instanceof CommandError) return error.message;
    throw error;
  }
  const [missing] = spec ? refProblems(show, spec.args, args) : [];
  return missing ? `What it names is gone: ${missing.message}. Choose another, or take the step out.` : null;
}

/** Arguments that say which thing is meant, not what becomes of it. */
const WHICH =
  /^(lane|clock|channel|channels|band|bus|boxes|device|message|item|page|button|source|deck|seat|layout|box|entry|field|graphic|macro|sheet|style|framing|element)$/;

/** Commands that each set the same again, told apart by what they set. */
function settingOf({ act }: Step): string | null {
  if (act.kind !== 'command' || /toggle|step|next|adjust|add|take|grab|nudge|run/i.test(act.type)) return null;
  const args = Object.entries(act.args);
  const which = args.filter(([name]) => WHICH.test(name)).map(([name, v]) => `${name} ${JSON.stringify(v)}`);
  const what = args.filter(([name]) => !WHICH.test(name)).map(([name]) => name);
  // Showing and hiding are two ways of setting one thing.
  const verb = act.type.replace(/\.(show|hide|showPicture)$/, '.up').replace(/\.(start|pause)$/, '.runs');
  return [verb, ...which.sort(), ...(act.type === 'lane.showPicture' ? [] : what.sort())].join(' ');
}

/** Every problem of a macro, by step. */
export function macroProblems(show: Show, macro: Macro): StepProblem[] {
  const problems: StepProblem[] = [];
  const trial = trialMap(show, macro);
  /** What has been set since the last wait, by which step. */
  const set = new Map<string, Step>();
  for (const step of macro.steps) {
    const message = problemOf(show, step, macro.asks, trial);
    if (message !== null) problems.push({ stepId: step.id, message });
    if (!step.on) continue;
    if (step.act.kind !== 'command') {
      set.clear();
      continue;
    }
    const setting = settingOf(step);
    if (setting === null) continue;
    const before = set.get(setting);
    if (before)
      problems.push({
        stepId: before.id,
        message: `Step ${macro.steps.indexOf(step) + 1} sets the same again on the same frame: nothing is seen of this one.`,
      });
    set.set(setting, step);
  }
  return problems;
}
