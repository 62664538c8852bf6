/** Tries macros dry, away from the page: a long one takes a second. */
import 'reflect-metadata';
import { leftToChance } from '#core/automation/chance';
import { dryRun } from '#core/automation/dry-run';
import { changesOf } from '#core/automation/stand';
import { causeOf } from '#core/schema/cause';
import { workerScope } from '../worker-scope';
import { type DryAnswer, type DryAsked } from './dry-runs';

workerScope.onmessage = ({ data: { id, desk, macroId, frame } }: MessageEvent<DryAsked>) => {
  let answer: DryAnswer;
  try {
    const macro = desk.show.automation.macros.find((m) => m.id === macroId);
    if (!macro) throw new Error('There is no such macro.');
    const { lines, frames, cut, desk: end } = dryRun(desk, macro, frame, true);
    const whole = changesOf(desk, end, frame + frames);
    answer = { id, ok: true, tried: { lines, frames, cut, whole, chance: leftToChance(desk, macro, frame) } };
  } catch (error) {
    answer = { id, ok: false, message: causeOf(error) };
  }
  workerScope.postMessage(answer);
};
