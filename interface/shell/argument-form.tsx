/** Asks for the arguments of a command: things of the show by name and picture, one after the other, then the rest. */
import { Command } from 'cmdk';
import { useMemo, useState } from 'react';
import { type CommandSpec } from '#core/commands/command';
import { execute } from '#core/desk/execute';
import { asksForHold } from '#core/desk/registry';
import { type FieldInfo, fieldsOf } from '#core/schema/fields';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { Monitor } from '../parts/monitor';
import { type Choice, choicesOf, isAskable } from './argument-choices';

/** What a field is called for people: the first words of what is said about it. */
export function labelOf({ about }: FieldInfo): string {
  const words = about.split(/[;:,]/)[0] ?? about;
  return (words[0]?.toUpperCase() ?? '') + words.slice(1);
}

/** What is typed into a field, as its value; undefined for nothing. */
function typed(text: string, field: FieldInfo): unknown {
  if (text.trim() === '') return undefined;
  if (/number/.test(field.type)) return Number(text.replace(',', '.'));
  return text;
}

/** Things that are listed at once: of thousands of entries the first that fit the words. */
const MOST_LISTED = 80;

/** One of the things of the show, by name and picture. */
function ChoiceList({ field, choices, onChoose }: { field: FieldInfo; choices: readonly Choice[]; onChoose: (value: unknown) => void }) {
  const [text, setText] = useState('');
  const words = text.toLocaleLowerCase().split(/\s+/);
  const found = choices.filter(({ label }) => words.every((w) => label.toLocaleLowerCase().includes(w))).slice(0, MOST_LISTED);
  return (
    <Command className="flex min-h-0 flex-col gap-2" label={labelOf(field)} shouldFilter={false}>
      <Command.Input autoFocus placeholder={`${labelOf(field)}…`} value={text} onValueChange={setText} />
      <Command.List className="max-h-[50vh] overflow-auto">
        <Command.Empty className="p-2 text-muted">Nothing has such a name.</Command.Empty>
        {found.map(({ value, label, picture }, i) => (
          <Command.Item
            key={`${label} ${i}`}
            value={`${label} ${i}`}
            onSelect={() => onChoose(value)}
            className="flex cursor-pointer items-center gap-2 rounded-[3px] px-2 py-1 data-[selected=true]:bg-raised"
          >
            {picture !== null && (
              <span className="block aspect-video w-16 shrink-0 bg-black">
                <Monitor picture={{ kind: 'picture', id: picture }} label="" className="h-full w-full" />
              </span>
            )}
            {label}
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}

/** Arguments of a command. A command that must be held is held here too; one that would change nothing says what it waits for. */
export function ArgumentForm({ spec, onDone }: { spec: CommandSpec; onDone: () => void }) {
  const client = useShowClient();
  const desk = useShow((s) => s.desk);
  const send = useSend();
  const [values, setValues] = useState<Record<string, unknown>>({});
  const [texts, setTexts] = useState<Record<string, string>>({});
  const fields = useMemo(() => fieldsOf(spec.args), [spec]);
  const asked = fields.find((f) => !f.optional && (f.ref || f.nested) && !Object.hasOwn(values, f.name) && choicesOf(f, desk.show));
  const choices = asked ? choicesOf(asked, desk.show) : null;
  if (asked && choices) {
    if (choices.length === 0)
      return <p className="p-2 text-muted">There is nothing of the kind in this show yet: {labelOf(asked).toLowerCase()}.</p>;
    return (
      <ChoiceList key={asked.name} field={asked} choices={choices} onChoose={(value) => setValues({ ...values, [asked.name]: value })} />
    );
  }
  const rest = fields.filter((f) => !Object.hasOwn(values, f.name) && isAskable(f) && !f.nested);
  const args: Record<string, unknown> = { ...values };
  for (const field of rest) {
    const text = texts[field.name] ?? '';
    const value = choicesOf(field, desk.show)?.find((c) => String(c.value) === text)?.value ?? typed(text, field);
    if (value !== undefined) args[field.name] = value;
  }
  const command = { type: spec.type, args };
  // Tried out, not done: handlers are pure.
  const outcome = execute(desk, command, { frame: client.state.frame, newId: () => 'tried-out' });
  const idle =
    outcome.ok && outcome.patches.length === 0 && !spec.step ? 'This changes nothing yet: fill in what should be different.' : null;
  const done = () => send(spec.type, args) && onDone();
  const hold = asksForHold(desk, command);
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!hold && idle === null) done();
      }}
    >
      <p className="text-muted">{spec.about}</p>
      {rest.map((field, i) => {
        const options = choicesOf(field, desk.show)?.slice(0, 500);
        const props = {
          autoFocus: i === 0,
          value: texts[field.name] ?? '',
          onChange: (e: { target: { value: string } }) => setTexts({ ...texts, [field.name]: e.target.value }),
        };
        return (
          <label key={field.name} className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">
              {labelOf(field)}
              {field.optional ? ' (if it should change)' : ''}
            </span>
            {options ? (
              <select {...props}>
                <option value="">–</option>
                {options.map((o) => (
                  <option key={String(o.value)} value={String(o.value)}>
                    {o.label}
                  </option>
                ))}
              </select>
            ) : (
              <input {...props} placeholder={field.type.replace(/`/g, '')} />
            )}
          </label>
        );
      })}
      {idle !== null && <p className="text-[13px] text-caution">{idle}</p>}
      {hold ? (
        <HoldButton look="air" autoFocus={rest.length === 0} onHeld={done}>
          Hold to do it: {spec.title}
        </HoldButton>
      ) : (
        <Button type="submit" look="straw" autoFocus={rest.length === 0} unusable={idle}>
          {spec.title}
        </Button>
      )}
    </form>
  );
}
