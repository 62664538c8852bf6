/** The steps of a macro as sentences: chosen, moved by hand and key, added, switched off. */
import clsx from 'clsx';
import { ChevronDown, ChevronRight, CopyPlus, GripVertical, Hourglass, Link2, Plus, Timer, Trash2 } from 'lucide-react';
import { useMemo } from 'react';
import { untilAct, waitAct } from '#core/automation/create';
import { type Macro, type Step, type StepAct } from '#core/automation/document';
import { macroProblems } from '#core/automation/problems';
import { actWords, namedBy, sentence } from '#core/automation/words';
import { findPicture } from '#core/desk/pictures';
import { type Show } from '#core/desk/show';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Monitor } from '../parts/monitor';
import { useRowDrag } from '../parts/use-drop';
import { addSteps, duplicateSteps, removeSteps } from './edits';
import { chooseStep, setAutomationRoom, useAutomationRoom } from './room-state';
import { Sentence } from './sentence';

/** The picture that a step is about; null for steps of no picture. */
const pictureOf = (show: Show, { act }: Step): string | null =>
  act.kind === 'command' ? (namedBy(act).find(({ id }) => findPicture(show, id))?.id ?? null) : null;

function Row({
  show,
  macro,
  step,
  index,
  problems,
  at,
}: {
  show: Show;
  macro: Macro;
  step: Step;
  index: number;
  problems: string[];
  at: boolean;
}) {
  const send = useSend();
  const chosen = useAutomationRoom((s) => s.chosen.includes(step.id));
  const { over, handlers } = useRowDrag(
    'text/bivoca-steps',
    step.id,
    macro.steps,
    () => useAutomationRoom.getState().chosen,
    (steps, place) => send('step.move', { macro: macro.id, steps, index: place }),
  );
  const picture = pictureOf(show, step);
  const words = actWords(show, step.act);
  return (
    <li
      data-step={step.id}
      aria-label={`Step ${index + 1}: ${sentence(words)}`}
      aria-current={at ? 'step' : undefined}
      {...handlers}
      className={clsx(
        'flex items-center gap-2 border-b border-line pr-2',
        chosen && 'bg-raised',
        over && 'border-t-2 border-t-straw',
        at && 'outline outline-1 -outline-offset-1 outline-next',
      )}
    >
      <GripVertical size={14} className="shrink-0 cursor-grab text-muted" aria-hidden />
      <span className="figures w-6 shrink-0 text-right text-[13px] text-muted">{index + 1}</span>
      <input
        type="checkbox"
        aria-label={`Step ${index + 1} is done`}
        title="Done; without it, passed over"
        checked={step.on}
        onChange={(e) => send('step.set', { macro: macro.id, steps: [step.id], on: e.target.checked })}
      />
      <button
        type="button"
        aria-pressed={chosen}
        className={clsx('flex min-h-9 min-w-0 flex-1 items-center gap-2 py-1 text-left', !step.on && 'opacity-50')}
        onClick={(e) => chooseStep(step.id, e.shiftKey)}
      >
        {step.joined && index > 0 && <Link2 size={14} className="shrink-0 text-straw" aria-label="Together with the step before" />}
        {step.act.kind === 'command' ? (
          picture !== null && (
            <span className="block aspect-video w-14 shrink-0 bg-black">
              <Monitor picture={{ kind: 'picture', id: picture }} label="" className="h-full w-full" />
            </span>
          )
        ) : step.act.kind === 'wait' ? (
          <Timer size={16} className="shrink-0 text-straw" aria-hidden />
        ) : (
          <Hourglass size={16} className="shrink-0 text-straw" aria-hidden />
        )}
        <span className="min-w-0">
          <span className={step.act.kind === 'command' ? '' : 'text-straw'}>
            <Sentence words={words} />
          </span>
          {step.note !== '' && <span className="block truncate text-[13px] text-muted">{step.note}</span>}
          {problems.map((p) => (
            <span key={p} className="block text-[13px] text-caution">
              {p}
            </span>
          ))}
        </span>
      </button>
    </li>
  );
}

/** The head of a group of steps: folded and switched as one. */
function GroupRow({ macro, index }: { macro: Macro; index: number }) {
  const send = useSend();
  const folded = useAutomationRoom((s) => s.folded);
  const { group } = macro.steps[index] as Step;
  const end = macro.steps.findIndex((s, i) => i > index && s.group !== group);
  const steps = macro.steps.slice(index, end === -1 ? undefined : end);
  const key = `${macro.id} ${group}`;
  const open = !folded.includes(key);
  return (
    <li className="flex items-center gap-2 border-b border-line bg-panel px-2" aria-label={`Group ${group}`}>
      <input
        type="checkbox"
        aria-label={`All steps of ${group} are done`}
        title="All of them done; without it, passed over"
        checked={steps.every((s) => s.on)}
        onChange={(e) => send('step.set', { macro: macro.id, steps: steps.map((s) => s.id), on: e.target.checked })}
      />
      <button
        type="button"
        aria-expanded={open}
        className="flex min-h-8 min-w-0 flex-1 items-center gap-2 text-left font-semibold"
        onClick={() => setAutomationRoom({ folded: open ? [...folded, key] : folded.filter((f) => f !== key) })}
      >
        {open ? <ChevronDown size={15} aria-hidden /> : <ChevronRight size={15} aria-hidden />}
        <span className="truncate">{group}</span>
        <span className="text-[13px] font-normal text-muted">
          {steps.length} {steps.length === 1 ? 'step' : 'steps'}
        </span>
      </button>
    </li>
  );
}

export function StepList({ macro }: { macro: Macro }) {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const runs = useShow(({ desk }) => desk.air.automation.runs);
  const { chosen, folded } = useAutomationRoom();
  const problems = useMemo(() => macroProblems(show, macro), [show, macro]);
  /** Steps that runs of this macro have come to. */
  const reached = new Set(Object.values(runs).flatMap((r) => (r.macroId === macro.id ? (r.steps[r.index]?.id ?? []) : [])));
  const picked = macro.steps.filter((s) => chosen.includes(s.id)).map((s) => s.id);
  const add = (act: StepAct) => addSteps(client, macro, [act]);
  return (
    <>
      <div className="flex shrink-0 flex-wrap items-center gap-1 border-b border-line p-1.5">
        <Button title="Choose what the step does" keyFor="steps.add" onClick={() => setAutomationRoom({ open: 'command' })}>
          <Plus size={15} /> Step
        </Button>
        <Button title="A wait of a length" onClick={() => add(waitAct(1))}>
          <Timer size={15} /> Wait
        </Button>
        <Button title="A wait for a press, or until something ends" onClick={() => add(untilAct('press'))}>
          <Hourglass size={15} /> Wait until…
        </Button>
        <Button title="Take the present state of parts of the show as steps" onClick={() => setAutomationRoom({ open: 'now' })}>
          As it is now…
        </Button>
        <span className="ml-auto flex items-center gap-1">
          {picked.length > 1 && <span className="text-[13px] text-straw">{picked.length} chosen</span>}
          <IconButton
            label="Duplicate the chosen steps"
            keyFor="steps.duplicate"
            unusable={picked.length === 0 ? 'Choose a step first.' : null}
            onClick={() => duplicateSteps(client, macro, picked)}
          >
            <CopyPlus size={15} />
          </IconButton>
          <IconButton
            label="Remove the chosen steps"
            keyFor="steps.remove"
            unusable={picked.length === 0 ? 'Choose a step first.' : null}
            onClick={() => removeSteps(client, macro, picked)}
          >
            <Trash2 size={15} />
          </IconButton>
        </span>
      </div>
      <ol className="min-h-0 flex-1 overflow-y-auto" aria-label={`Steps of ${macro.name}`}>
        {macro.steps.map((step, i) => [
          step.group !== '' && step.group !== macro.steps[i - 1]?.group && <GroupRow key={`group ${step.id}`} macro={macro} index={i} />,
          (step.group === '' || !folded.includes(`${macro.id} ${step.group}`)) && (
            <Row
              key={step.id}
              show={show}
              macro={macro}
              step={step}
              index={i}
              at={reached.has(step.id)}
              problems={problems.filter((p) => p.stepId === step.id).map((p) => p.message)}
            />
          ),
        ])}
        {macro.steps.length === 0 && (
          <li className="p-4 text-muted">No steps yet. Press Step and choose what it does, or take parts of the show as they are now.</li>
        )}
      </ol>
    </>
  );
}
