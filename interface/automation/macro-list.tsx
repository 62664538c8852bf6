/** The macros of the show: which one is open, which of them run; adding, recording, running. */
import { useMemo } from 'react';
import { CopyPlus, Play, Plus, Trash2 } from 'lucide-react';
import { type Macro } from '#core/automation/document';
import { macroProblems } from '#core/automation/problems';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { MacroFiles } from './macro-files';
import { addMacro, runMacro } from './edits';
import { openMacroById } from './room-state';

function Row({ macro, open, running, faults }: { macro: Macro; open: boolean; running: boolean; faults: number }) {
  const client = useShowClient();
  return (
    <li
      className={`flex items-stretch border-b border-line ${open ? 'bg-raised' : ''}`}
      style={{ borderLeft: `4px solid ${macro.colour}` }}
    >
      <button
        type="button"
        aria-pressed={open}
        data-macro={macro.id}
        className="flex min-w-0 flex-1 flex-col items-start px-2 py-1 text-left"
        onClick={() => openMacroById(macro.id)}
      >
        <span className="flex w-full items-baseline gap-2">
          <span className="figures w-5 shrink-0 text-straw">{macro.number ?? ''}</span>
          <span className={`min-w-0 truncate ${open ? 'font-semibold' : ''}`}>{macro.name}</span>
        </span>
        <span className="pl-7 text-[13px] text-muted">
          {macro.steps.length} {macro.steps.length === 1 ? 'step' : 'steps'}
          {faults > 0 && <span className="text-caution"> · {faults} to look at</span>}
          {running && <span className="text-next"> · runs</span>}
        </span>
      </button>
      <Button
        look="quiet"
        className="px-2!"
        aria-label={`Run ${macro.name}`}
        title={`Run ${macro.name}`}
        onClick={() => runMacro(client, macro)}
      >
        <Play size={15} />
      </Button>
    </li>
  );
}

export function MacroList({ macro }: { macro: Macro | undefined }) {
  const client = useShowClient();
  const send = useSend();
  const { show, runs, recording } = useShow(({ desk: { show: s, air } }) => ({
    show: s,
    runs: air.automation.runs,
    recording: air.automation.recording !== null,
  }));
  const { macros } = show.automation;
  const running = new Set(Object.values(runs).map((r) => r.macroId));
  // Each show is checked once, however often macros start and stop.
  const faults = useMemo(() => new Map(macros.map((m) => [m.id, macroProblems(show, m).length])), [show, macros]);
  return (
    <>
      <div className="flex shrink-0 flex-wrap gap-1 border-b border-line p-1.5">
        <Button title="New macro" keyFor="macros.new" onClick={() => addMacro(client)}>
          <Plus size={15} /> Macro
        </Button>
        <Button
          title="Keep everything that is done from now on as steps"
          keyFor="automation.record"
          unusable={recording ? 'A macro is being recorded: stop it at the foot of the page.' : null}
          onClick={() => send('automation.record')}
        >
          Record
        </Button>
        <MacroFiles macro={macro} />
        {macro && (
          <span className="ml-auto flex">
            <IconButton
              label="Duplicate this macro"
              onClick={() => {
                const done = client.dispatch({ type: 'macro.duplicate', args: { macro: macro.id } });
                if (done.ok) openMacroById(String(done.result.id));
              }}
            >
              <CopyPlus size={15} />
            </IconButton>
            <IconButton label="Remove this macro" onClick={() => send('macro.remove', { macro: macro.id })}>
              <Trash2 size={15} />
            </IconButton>
          </span>
        )}
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Macros">
        {macros.map((m) => (
          <Row key={m.id} macro={m} open={m.id === macro?.id} running={running.has(m.id)} faults={faults.get(m.id) ?? 0} />
        ))}
        {macros.length === 0 && (
          <li className="p-3 text-sm text-muted">
            No macros yet. Press Record and do once what it should do, or add one and choose its steps.
          </li>
        )}
      </ul>
    </>
  );
}
