/** A macro tried dry: what each step changes, in words and with the picture after it. Nothing goes to air. */
import { memo, useEffect, useState } from 'react';
import { type Macro } from '#core/automation/document';
import { placeUnseen } from '#core/automation/seen';
import { causeOf } from '#core/schema/cause';
import { type PicturePlan } from '#core/picture/draw';
import { formatTimecode } from '#core/time/timecode';
import { type Tried, tryDry } from '#engine/automation/dry-runs';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Monitor } from '../parts/monitor';
import { setAutomationRoom, useAutomationRoom } from './room-state';

/** Steps that are being edited rest for so long before they are tried again, milliseconds. */
const SETTLE_MS = 200;

/** What would be on air after a step. A plan may be long: it is looked at anew only when it is another. */
const After = memo(function After({ plan }: { plan: PicturePlan }) {
  return (
    <span className="block aspect-video w-28 shrink-0 self-start bg-black">
      <Monitor picture={{ kind: 'plan', plan }} label="On air after it" className="h-full w-full" />
    </span>
  );
});

/** Lines that are drawn; of very long macros the first. */
const MOST_LINES = 300;

/** The audience would see it: one press moves it before what it alters is put on air. */
function SeenLine({ macro, tried, index }: { macro: Macro; tried: Tried; index: number }) {
  const send = useSend();
  const place = placeUnseen(macro, tried.lines, index);
  const step = tried.lines[index]?.stepId ?? '';
  return (
    <span className="flex items-center gap-2 font-semibold text-caution">
      The audience sees this
      {place !== null && (
        <Button
          title={`Before step ${place + 1}, which puts it on air: then nobody sees it happen`}
          onClick={() => send('step.move', { macro: macro.id, steps: [step], index: place })}
        >
          Do it before
        </Button>
      )}
    </span>
  );
}

export function DryPanel({ macro }: { macro: Macro }) {
  const client = useShowClient();
  const rate = useShow(({ desk }) => desk.show.rate);
  const tries = useAutomationRoom((s) => s.tries);
  const [tried, setTried] = useState<Tried | null>(null);
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    // Tried anew when it is asked for, or when its steps change: not with every act of the show.
    let gone = false;
    const { desk, frame } = client.state;
    const timer = setTimeout(() => {
      tryDry(desk, macro.id, frame).then(
        (found) => {
          if (gone) return;
          setTried(found);
          setTrouble('');
        },
        (error: unknown) => void (!gone && setTrouble(causeOf(error))),
      );
    }, SETTLE_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [client, macro, tries]);
  if (!tried) return <p className="p-3 text-sm text-muted">{trouble === '' ? 'Being tried…' : `It cannot be tried: ${trouble}`}</p>;
  const { whole, chance } = tried;
  const steps = new Map(macro.steps.map((s, i) => [s.id, i + 1]));
  return (
    <div className="flex flex-col gap-2 p-3">
      <div className="flex items-center gap-2">
        <Button title="Try it on the show as it is now" keyFor="macros.try" onClick={() => setAutomationRoom({ tries: tries + 1 })}>
          Try again
        </Button>
        <span className="text-[13px] text-muted">
          {tried.lines.length === 0 ? 'Nothing to try yet.' : `takes ${formatTimecode(tried.frames, rate).slice(3)}; nothing goes to air`}
        </span>
      </div>
      <ol className="flex flex-col" aria-label="What each step comes to">
        {tried.lines.slice(0, MOST_LINES).map((line, i) => (
          <li key={i} className="flex flex-wrap justify-end gap-x-2 gap-y-1 border-t border-line py-1 text-[13px]">
            <span className="figures w-6 shrink-0 text-right text-muted">{line.macroId === macro.id ? steps.get(line.stepId) : '↳'}</span>
            <span className="figures w-18 shrink-0 text-muted">{formatTimecode(line.frame, rate).slice(3)}</span>
            <span className="min-w-30 flex-1">
              {line.refused !== null && <span className="block text-caution">Refused: {line.refused}</span>}
              {line.seen && <SeenLine macro={macro} tried={tried} index={i} />}
              {line.changes.map((c) => (
                <span key={c} className="block">
                  {c}
                </span>
              ))}
              {line.changes.length === 0 && line.refused === null && (
                <span className="text-muted">{line.open ? 'waits; nobody can say how long' : 'changes nothing more'}</span>
              )}
            </span>
            {line.picture && <After plan={line.picture} />}
          </li>
        ))}
        {tried.lines.length > MOST_LINES && <li className="py-1 text-[13px] text-muted">and {tried.lines.length - MOST_LINES} more</li>}
      </ol>
      {tried.lines.length > 0 && (
        <>
          <section aria-label="The whole difference">
            <h3 className="text-sm font-semibold">In the end</h3>
            <ul className="text-[13px]">
              {whole.map((c) => (
                <li key={c}>{c}</li>
              ))}
              {whole.length === 0 && <li className="text-muted">all is as it is now</li>}
            </ul>
          </section>
          <section aria-label="Left to chance">
            <h3 className="text-sm font-semibold">Left to chance</h3>
            <p className="text-[13px] text-muted">
              {chance.length === 0
                ? 'Nothing: it comes to the same from whatever state.'
                : `Begun from another state, these end up otherwise: ${chance.slice(0, 40).join(', ')}${chance.length > 40 ? ` and ${chance.length - 40} more` : ''}.`}
            </p>
          </section>
        </>
      )}
    </div>
  );
}
