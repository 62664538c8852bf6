/** What a macro asks for when it is run, and the dialog that asks. */
import { Plus, X } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { ASKED_TARGETS } from '#core/automation/asked';
import { type Asked, ASKED_KINDS, type AskedKind, type Macro, MOST_ASKED } from '#core/automation/document';
import { entitiesOf } from '#core/desk/entities';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Dialog } from '../parts/dialog';
import { Choice, Line, ThingChoice } from '../parts/fields';
import { GivenFields } from './command-fields';
import { setAutomationRoom, useAutomationRoom } from './room-state';

export function AsksPanel({ macro }: { macro: Macro }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const set = (asks: Asked[]) => send('macro.setAsks', { macro: macro.id, asks });
  const change = (id: string, to: Partial<Asked>) => set(macro.asks.map((a) => (a.id === id ? { ...a, ...to } : a)));
  const add = () => {
    let n = macro.asks.length + 1;
    while (macro.asks.some((a) => a.name === `Value ${n}`)) n += 1;
    set([...macro.asks, { id: nanoid(12), name: `Value ${n}`, kind: 'picture', otherwise: '' }]);
  };
  return (
    <section aria-label="What it asks for" className="flex flex-col gap-2 border-t border-line pt-2">
      <p>What it asks for when it is run. In a step, choose it in the place of a value; keys, triggers and the remote give it along.</p>
      {macro.asks.map((asked) => {
        const to = ASKED_TARGETS[asked.kind];
        return (
          <div key={asked.id} className="grid grid-cols-[minmax(0,1fr)_88px_minmax(0,1fr)_auto] items-end gap-1">
            <Line showLabel max={30} label="Name" value={asked.name} onSave={(name) => change(asked.id, { name })} />
            <Choice
              label="Kind"
              value={asked.kind}
              all={ASKED_KINDS.map((k) => [k, k] as const)}
              onChange={(kind: AskedKind) => change(asked.id, { kind, otherwise: '' })}
            />
            {to === null ? (
              <Line
                showLabel
                empty
                max={200}
                label="Otherwise"
                value={asked.otherwise}
                onSave={(otherwise) => change(asked.id, { otherwise })}
              />
            ) : (
              <ThingChoice
                label="Otherwise"
                none="has to be given"
                value={asked.otherwise || null}
                all={entitiesOf(show, to)}
                onChange={(id) => change(asked.id, { otherwise: id ?? '' })}
              />
            )}
            <IconButton label={`Do not ask for ${asked.name}`} onClick={() => set(macro.asks.filter((a) => a.id !== asked.id))}>
              <X size={14} />
            </IconButton>
          </div>
        );
      })}
      <span>
        <Button unusable={macro.asks.length >= MOST_ASKED ? `A macro asks for at most ${MOST_ASKED}.` : null} onClick={add}>
          <Plus size={14} /> Ask for…
        </Button>
      </span>
    </section>
  );
}

/** Asks for what the macro that is about to run has to be given. */
export function AskDialog() {
  const send = useSend();
  const macros = useShow(({ desk }) => desk.show.automation.macros);
  const asking = useAutomationRoom((s) => s.asking);
  const macro = macros.find((m) => m.id === asking);
  const [given, setGiven] = useState<Record<string, unknown>>({});
  const close = () => {
    setGiven({});
    setAutomationRoom({ asking: null });
  };
  if (!macro) return null;
  return (
    <Dialog open onClose={close} title={`Run ${macro.name}`} about="It asks for this.">
      <form
        className="flex flex-col gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (send('macro.run', { macro: macro.id, given })) close();
        }}
      >
        <GivenFields macro={macro} given={given} onChange={setGiven} />
        <div className="flex justify-end gap-2">
          <Button onClick={close}>Leave it</Button>
          <Button look="straw" type="submit">
            Run
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
