/** The command finder: any command by its name, with its arguments asked for. */
import { Command } from 'cmdk';
import { useState } from 'react';
import { type CommandSpec } from '#core/commands/command';
import { entitiesOf } from '#core/desk/entities';
import { COMMANDS } from '#core/desk/registry';
import { type FieldInfo, fieldsOf } from '#core/schema/fields';
import { type Show } from '#core/desk/show';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';

/** Choices for a field that refers to something in the show, or has a fixed set of values. */
function choices(field: FieldInfo, show: Show): { value: unknown; label: string }[] | null {
  if (field.ref && !field.ref.list) {
    const named = field.ref.to.flatMap((to) => entitiesOf(show, to)).map(({ id, name }) => ({ value: id, label: name || id }));
    return [...named, ...field.ref.or.map((word) => ({ value: word, label: word }))];
  }
  if (field.type === 'true or false') return [true, false].map((v) => ({ value: v, label: v ? 'yes' : 'no' }));
  const fixed = [...field.type.matchAll(/`([^`]+)`/g)].map((m) => m[1] as string);
  return fixed.length > 0 ? fixed.map((v) => ({ value: v, label: v })) : null;
}

function parseValue(text: string, field: FieldInfo): unknown {
  if (text === '') return undefined;
  if (/number/.test(field.type)) return Number(text);
  if (field.type === 'object' || field.type.startsWith('list')) {
    try {
      return JSON.parse(text) as unknown;
    } catch {
      return text;
    }
  }
  return text;
}

/** Arguments of a command, asked for one under the other. */
function ArgumentForm({ spec, onDone }: { spec: CommandSpec; onDone: () => void }) {
  const show = useShow((s) => s.desk.show);
  const send = useSend();
  const [texts, setTexts] = useState<Record<string, string>>({});
  const fields = fieldsOf(spec.args);
  const submit = () => {
    const args: Record<string, unknown> = {};
    for (const field of fields) {
      const text = texts[field.name] ?? '';
      const value = choices(field, show)?.find((c) => String(c.value) === text)?.value ?? parseValue(text, field);
      if (value !== undefined) args[field.name] = value;
    }
    if (send(spec.type, args)) onDone();
  };
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <p className="text-muted">{spec.about}</p>
      {fields.map((field, i) => {
        const options = choices(field, show);
        const props = {
          autoFocus: i === 0,
          value: texts[field.name] ?? '',
          onChange: (e: { target: { value: string } }) => setTexts({ ...texts, [field.name]: e.target.value }),
        };
        return (
          <label key={field.name} className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">
              {field.about}
              {field.optional ? ' (optional)' : ''}
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
              <input {...props} placeholder={field.type} />
            )}
          </label>
        );
      })}
      <Button type="submit" look="straw">
        {spec.title}
      </Button>
    </form>
  );
}

/** Ctrl+K: finds any command by name, asks for what it needs, and runs it. */
export function CommandFinder({ open, onClose }: { open: boolean; onClose: () => void }) {
  const send = useSend();
  const [chosen, setChosen] = useState<CommandSpec | null>(null);
  const close = () => {
    setChosen(null);
    onClose();
  };
  const run = (spec: CommandSpec) => {
    if (fieldsOf(spec.args).some((f) => !f.optional)) setChosen(spec);
    else if (send(spec.type)) close();
  };
  return (
    <Dialog open={open} onClose={close} title={chosen?.title ?? 'Find a command'} wide>
      {chosen ? (
        <ArgumentForm spec={chosen} onDone={close} />
      ) : (
        <Command className="flex min-h-0 flex-col gap-2" label="Commands">
          <Command.Input autoFocus placeholder="take, record, lane…" />
          <Command.List className="max-h-[50vh] overflow-auto">
            <Command.Empty className="p-2 text-muted">No command has such a name.</Command.Empty>
            {COMMANDS.map((spec) => (
              <Row key={spec.type} type={spec.type} title={spec.title} about={spec.about} onSelect={() => run(spec)} />
            ))}
          </Command.List>
        </Command>
      )}
    </Dialog>
  );
}

function Row({ type, title, about, onSelect }: { type: string; title: string; about: string; onSelect: () => void }) {
  return (
    <Command.Item
      value={`${title} ${type}`}
      onSelect={onSelect}
      className="flex cursor-pointer flex-col rounded-[3px] px-2 py-1.5 data-[selected=true]:bg-raised"
    >
      <span className="flex justify-between gap-4">
        <span className="font-semibold">{title}</span>
        <span className="figures text-xs text-muted">{type}</span>
      </span>
      <span className="text-xs text-muted">{about}</span>
    </Command.Item>
  );
}
