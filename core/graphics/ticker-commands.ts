/** Commands for tickers on air. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { tickersOnAir } from '../desk/keep-tickers';
import { Flag, Ref, Text } from '../schema/fields';
import { type TickerRun } from './air';
import { graphicOf } from './edit';
import { travelled } from './ticker';

class GraphicArg {
  @Ref('graphic', 'graphic whose tickers are on air') graphic!: string;
}
class PauseArgs extends GraphicArg {
  @Flag('true to stop, false to go on; without it, the other of what is', { optional: true }) paused?: boolean;
}
class UrgentArgs extends GraphicArg {
  @Text(1000, 'the item', { min: 1 }) text!: string;
}

/** Urgent items that wait at once. */
const MOST_URGENT = 20;

/** Runs of the tickers of a graphic. @throws CommandError when none is on air. */
function runsOf(desk: Desk, id: string): TickerRun[] {
  const graphic = graphicOf(desk, id);
  const runs = tickersOnAir(desk.air).flatMap((t) => (t.up && t.shown.graphic.id === id ? (desk.air.graphics.tickers[t.key] ?? []) : []));
  if (runs.length === 0) throw new CommandError('not-shown', `No ticker of ${graphic.name} is on air.`, 'graphic');
  return runs;
}

export const tickerCommands = [
  defineCommand({
    type: 'ticker.pause',
    title: 'Pause a ticker',
    says: 'Pause or run the ticker',
    about: 'Stops the tickers of a graphic where they are, or lets them go on from there.',
    args: PauseArgs,
    run: (desk, { graphic, paused }, { frame }) => {
      const runs = runsOf(desk, graphic);
      const stop = paused ?? runs.every((r) => r.paused === null);
      for (const run of runs) {
        if (stop === (run.paused !== null)) continue;
        run.lead = travelled(run, frame);
        run.start = frame;
        run.paused = stop ? frame : null;
      }
      return { paused: stop };
    },
  }),
  defineCommand({
    type: 'ticker.clear',
    title: 'Clear a ticker',
    about: 'Empties the line at once; it begins anew with its first item, from the edge.',
    args: GraphicArg,
    run: (desk, { graphic }, { frame }) => {
      for (const run of runsOf(desk, graphic))
        Object.assign(run, { start: frame, lead: 0, head: [], from: 0, urgent: [], paused: run.paused === null ? null : frame });
    },
  }),
  defineCommand({
    type: 'ticker.urgent',
    title: 'Urgent item next',
    about: 'Lets an item come next in the tickers of a graphic, once, in front of their list. What is in the line stays where it is.',
    args: UrgentArgs,
    run: (desk, { graphic, text }) => {
      const words = text.replaceAll(/\s+/gu, ' ').trim();
      if (words === '') throw new CommandError('bad-argument', 'An urgent item has words.', 'text');
      for (const run of runsOf(desk, graphic)) {
        if (run.urgent.length >= MOST_URGENT)
          throw new CommandError('too-many', `At most ${MOST_URGENT} urgent items wait at once.`, 'text');
        run.urgent.push(words);
      }
    },
  }),
];
