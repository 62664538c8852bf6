/** New steps: a command from the list of all, or the present state of parts of the show. */
import { useMemo, useState } from 'react';
import { asItIsNow, stateParts } from '#core/automation/as-now';
import { type Macro, type StepAct } from '#core/automation/document';
import { canBeStep } from '#core/automation/record';
import { actWords, sentence } from '#core/automation/words';
import { aboutForPeople, type Command, type CommandSpec } from '#core/commands/command';
import { COMMANDS } from '#core/desk/registry';
import { fieldsOf } from '#core/schema/fields';
import { useShow, useShowClient } from '../client/show-client';
import { choicesOf } from '../shell/argument-choices';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { addSteps } from './edits';
import { setAutomationRoom, useAutomationRoom } from './room-state';

/** Rows that are drawn at once: a search narrows them down. */
const MOST_ROWS = 60;

/** Commands as acts of steps. */
const actsOf = (commands: readonly Command[]): StepAct[] => commands.map(({ type, args = {} }) => ({ kind: 'command', type, args }));

/** A command from the list of all, its first choices made: they are changed in the step. */
export function CommandDialog({ macro }: { macro: Macro }) {
  const client = useShowClient();
  const open = useAutomationRoom((s) => s.open === 'command');
  const show = useShow(({ desk }) => desk.show);
  const [text, setText] = useState('');
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = COMMANDS.filter(canBeStep)
    .filter(({ type, title, about }) => words.every((w) => `${type} ${title} ${about}`.toLowerCase().includes(w)))
    .sort(
      (a, b) =>
        Number(!words.every((w) => a.title.toLowerCase().includes(w))) - Number(!words.every((w) => b.title.toLowerCase().includes(w))),
    )
    .slice(0, MOST_ROWS);
  const close = () => {
    setText('');
    setAutomationRoom({ open: null });
  };
  const choose = (spec: CommandSpec) => {
    const args: Record<string, unknown> = {};
    for (const field of fieldsOf(spec.args)) {
      if (field.optional) continue;
      const choices = choicesOf(field, show);
      const number = /(-?[\d.]+) to (-?[\d.]+)/.exec(field.type);
      if (choices) args[field.name] = choices[0]?.value;
      else if (/number/.test(field.type) && number) args[field.name] = Math.min(Number(number[2]), Math.max(Number(number[1]), 0));
      else if (field.type.startsWith('text')) args[field.name] = '';
      if (args[field.name] === undefined) delete args[field.name];
    }
    setText('');
    addSteps(client, macro, actsOf([{ type: spec.type, args }]));
  };
  return (
    <Dialog open={open} onClose={close} title="What the step does" wide>
      <input
        autoFocus
        aria-label="Find a command"
        placeholder="show, cut, clock, fader…"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <ul className="max-h-[56vh] overflow-y-auto" aria-label="Commands">
        {found.map((spec) => (
          <li key={spec.type}>
            <button
              type="button"
              className="flex min-h-8 w-full items-baseline gap-3 rounded-[3px] px-2 py-1 text-left hover:bg-raised focus:bg-raised"
              onClick={() => choose(spec)}
            >
              <span className="shrink-0 font-semibold">{spec.title}</span>
              <span className="min-w-0 flex-1 truncate text-[13px] text-muted">{aboutForPeople(spec)}</span>
            </button>
          </li>
        ))}
        {found.length === 0 && <li className="p-2 text-muted">Nothing has such a name. Try a word of what it does.</li>}
      </ul>
    </Dialog>
  );
}

/** Parts of the show whose present state becomes steps. */
export function NowDialog({ macro }: { macro: Macro }) {
  const client = useShowClient();
  const open = useAutomationRoom((s) => s.open === 'now');
  const desk = useShow((s) => s.desk);
  const [parts, setParts] = useState<readonly string[]>([]);
  const all = useMemo(() => (open ? stateParts(desk) : []), [open, desk]);
  const commands = open ? asItIsNow(desk, parts, client.state.frame) : [];
  const close = () => setAutomationRoom({ open: null });
  const groups = [...new Set(all.map((p) => p.group))];
  return (
    <Dialog
      open={open}
      onClose={close}
      title="As it is now"
      about="Steps that set all values of these parts, also those that nobody touched."
      extraWide
    >
      <div className="grid max-h-[46vh] grid-cols-3 gap-x-4 gap-y-2 overflow-y-auto">
        {groups.map((group) => (
          <section key={group} aria-label={group}>
            <h3 className="text-sm font-semibold">{group}</h3>
            {all
              .filter((p) => p.group === group)
              .map((p) => (
                <label key={p.id} className="flex min-h-7 items-center gap-2 text-sm">
                  <input
                    type="checkbox"
                    checked={parts.includes(p.id)}
                    onChange={(e) => setParts((now) => (e.target.checked ? [...now, p.id] : now.filter((id) => id !== p.id)))}
                  />
                  <span className="truncate">{p.name}</span>
                </label>
              ))}
          </section>
        ))}
      </div>
      <ol className="max-h-32 list-decimal overflow-y-auto pl-8 text-[13px] text-muted" aria-label="Steps that it comes to">
        {commands.slice(0, 100).map(({ type, args = {} }, i) => (
          <li key={i}>{sentence(actWords(desk.show, { kind: 'command', type, args }))}</li>
        ))}
      </ol>
      <div className="flex justify-end gap-2">
        <Button onClick={close}>Leave it</Button>
        <Button
          look="straw"
          unusable={commands.length === 0 ? 'Choose parts of the show first.' : null}
          onClick={() => addSteps(client, macro, actsOf(commands))}
        >
          Add {commands.length} {commands.length === 1 ? 'step' : 'steps'}
        </Button>
      </div>
    </Dialog>
  );
}
