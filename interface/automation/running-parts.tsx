/** What runs and what is recorded: name, step, time left; pause, go on, stop. */
import { Circle, Hand, Pause, Play, Square } from 'lucide-react';
import { type Run } from '#core/automation/air';
import { leftOf } from '#core/automation/runs';
import { actWords, sentence } from '#core/automation/words';
import { framesPerSecond } from '#core/time/rate';
import { useLive, useSend } from '../client/show-client';
import { Button } from '../parts/button';

/** Runs that are shown by name; of more, how many. */
const MOST_SHOWN = 3;

function RunningMacro({ run }: { run: Run }) {
  const send = useSend();
  const { left, words } = useLive(({ desk, frame }) => {
    const frames = leftOf(desk, run, frame);
    const act = run.steps[run.index]?.act;
    return {
      left: frames === null || act?.kind === 'command' ? null : Math.ceil(frames / framesPerSecond(desk.show.rate)),
      words: act ? sentence(actWords(desk.show, act)) : '',
    };
  });
  const act = run.steps[run.index]?.act;
  const waits = act?.kind === 'until' && act.event === 'press' && run.pressed === null;
  const paused = run.pausedAt !== null;
  return (
    <li className="flex h-full items-center gap-1 pr-1 pl-2" style={{ borderLeft: `4px solid ${run.colour}` }} title={words}>
      <span className="max-w-40 truncate font-semibold">{run.name}</span>
      <span className="figures text-muted">
        {Math.min(run.index + 1, run.steps.length)}/{run.steps.length}
      </span>
      <span className={`figures min-w-12 text-right ${paused ? 'text-caution' : 'text-straw'}`}>
        {paused ? 'PAUSED' : waits ? 'PRESS' : left === null ? '' : `${left} s`}
      </span>
      {waits && !paused && (
        <Button
          look="straw"
          className="h-full! min-h-0! py-0!"
          keyFor="run.go"
          title={`${run.name} goes on`}
          onClick={() => send('run.go', { run: run.id })}
        >
          <Hand size={13} /> Go on
        </Button>
      )}
      <Button
        look="quiet"
        className="h-full! min-h-0! px-1! py-0!"
        aria-label={paused ? `${run.name} runs again` : `Pause ${run.name}`}
        title={paused ? `${run.name} runs again` : `Pause ${run.name}`}
        onClick={() => send(paused ? 'run.resume' : 'run.pause', { run: run.id })}
      >
        {paused ? <Play size={14} /> : <Pause size={14} />}
      </Button>
      <Button
        look="quiet"
        className="h-full! min-h-0! px-1! py-0!"
        aria-label={`Stop ${run.name}`}
        title={`Stop ${run.name}: all stays as it is`}
        onClick={() => send('run.stop', { run: run.id })}
      >
        <Square size={13} />
      </Button>
    </li>
  );
}

/** A macro that is being recorded: how many steps it has, a wait for a press, keeping it, dropping it. */
function Recording({ count }: { count: number }) {
  const send = useSend();
  const small = 'h-full! min-h-0! py-0!';
  return (
    <div className="flex h-full items-center gap-1 border-l border-line px-2 text-caution" role="group" aria-label="Recording a macro">
      <Circle size={12} fill="currentColor" aria-hidden />
      <span className="font-semibold whitespace-nowrap">
        Macro: <span className="figures">{count}</span> {count === 1 ? 'step' : 'steps'}
      </span>
      <Button
        className={small}
        title="Here it waits for a press"
        keyFor="automation.recordWait"
        onClick={() => send('automation.recordWait')}
      >
        Wait
      </Button>
      <Button
        look="straw"
        className={small}
        title="Keep it, with its waits"
        keyFor="automation.record"
        onClick={() => send('automation.stopRecording', { waits: 'kept', elsewhere: true })}
      >
        Keep
      </Button>
      <Button
        className={small}
        title="Keep it, waits to half seconds"
        onClick={() => send('automation.stopRecording', { waits: 'rounded', elsewhere: true })}
      >
        rounded
      </Button>
      <Button
        className={small}
        title="Keep it without waits"
        onClick={() => send('automation.stopRecording', { waits: 'none', elsewhere: true })}
      >
        no waits
      </Button>
      <Button
        look="quiet"
        className={small}
        title="Nothing of it is kept; what was done stays done"
        onClick={() => send('automation.dropRecording')}
      >
        Drop
      </Button>
    </div>
  );
}

/** Everything automatic is held: said in every room, as nothing happens by itself then. */
function Held() {
  const send = useSend();
  return (
    <Button
      className="h-full! min-h-0! border-caution! py-0! text-caution!"
      title="No trigger acts, and macros are paused: press to let all go on"
      keyFor="automation.holdAll"
      onClick={() => send('automation.holdAll')}
    >
      <Hand size={13} /> Automatic: held
    </Button>
  );
}

export function RunningParts({ runs, recorded, held }: { runs: readonly Run[]; recorded: number | null; held: boolean }) {
  return (
    <>
      {held && <Held />}
      {recorded !== null && <Recording count={recorded} />}
      <ul className="flex h-full" aria-label="Macros that run">
        {runs.slice(0, MOST_SHOWN).map((run) => (
          <RunningMacro key={run.id} run={run} />
        ))}
        {runs.length > MOST_SHOWN && <li className="flex items-center px-2 text-muted">and {runs.length - MOST_SHOWN} more</li>}
      </ul>
    </>
  );
}
