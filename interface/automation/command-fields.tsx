/** The arguments of a command: chosen from the show, typed, or one of what the macro around it asks for. */
import { ASKED_TARGETS, askedIn, otherwiseWords } from '#core/automation/asked';
import { type Asked, type CommandAct, type Macro } from '#core/automation/document';
import { entitiesOf } from '#core/desk/entities';
import { aboutForPeople, type CommandSpec } from '#core/commands/command';
import { findCommand } from '#core/desk/registry';
import { type FieldInfo, fieldsOf } from '#core/schema/fields';
import { say } from '../client/say';
import { useShow } from '../client/show-client';
import { arePictures, choicesOf } from '../shell/argument-choices';
import { labelOf } from '../shell/argument-form';
import { Line, ThingChoice } from '../parts/fields';
import { SeePictures } from '../parts/see-pictures';
import { NumberField } from '../parts/number-field';

/** One argument: chosen from the show, typed, or as JSON where it is a whole of many parts. */
function Argument({ field, value, onChange }: { field: FieldInfo; value: unknown; onChange: (value: unknown) => void }) {
  const show = useShow(({ desk }) => desk.show);
  const choices = choicesOf(field, show);
  const label = labelOf(field);
  if (choices && choices.length <= 1000) {
    const at = choices.findIndex((c) => JSON.stringify(c.value) === JSON.stringify(value));
    return (
      <span className="flex flex-col gap-0.5 text-[13px] text-muted">
        {label}
        <SeePictures
          label={label}
          options={choices.flatMap((c, i) => (c.picture === null ? [] : [{ key: String(i), name: c.label, pictureId: c.picture }]))}
          chosen={String(at)}
          onChoose={(i) => onChange(choices[Number(i)]?.value)}
        >
          <select
            aria-label={label}
            value={at}
            onChange={(e) => onChange(e.target.value === 'none' ? undefined : choices[Number(e.target.value)]?.value)}
          >
            {at === -1 && <option value={-1}>{value === undefined ? '–' : `${String(value)} (gone)`}</option>}
            {field.optional && at !== -1 && <option value="none">– leave it</option>}
            {choices.map((c, i) => (
              <option key={i} value={i}>
                {c.label}
              </option>
            ))}
          </select>
        </SeePictures>
      </span>
    );
  }
  if (/number/.test(field.type) && (typeof value === 'number' || value === undefined)) {
    const [least, most] = (/(-?[\d.]+) to (-?[\d.]+)/.exec(field.type) ?? []).slice(1).map(Number);
    return (
      <NumberField
        showLabel
        label={label}
        digits={field.type.startsWith('whole') ? 0 : 3}
        min={least ?? -1e12}
        max={most ?? 1e12}
        value={value ?? 0}
        onCommit={onChange}
      />
    );
  }
  if (typeof value === 'string' || (value === undefined && field.type.startsWith('text')))
    return <Line showLabel empty label={label} value={value ?? ''} max={10_000} onSave={onChange} />;
  return (
    <Line
      showLabel
      empty
      label={`${label} (${field.type.replace(/`/g, '')})`}
      value={value === undefined ? '' : JSON.stringify(value)}
      max={20_000}
      onSave={(text) => {
        try {
          onChange(text.trim() === '' ? undefined : (JSON.parse(text) as unknown));
        } catch {
          say.caution(`${label} cannot be read as JSON: it stays as it was.`);
        }
      }}
    />
  );
}

/** Arguments that a person can say; an identity that nobody can know beforehand, such as that of a run, is shown only where it is set. */
const offered = (spec: CommandSpec, args: Record<string, unknown>): FieldInfo[] =>
  fieldsOf(spec.args).filter((f) => (f.ref || f.type !== 'id' || Object.hasOwn(args, f.name)) && f.name !== 'given');

/** Arguments that a macro is run with: what it asks for. */
export function GivenFields({
  macro,
  given,
  onChange,
}: {
  macro: Macro;
  given: Record<string, unknown>;
  onChange: (given: Record<string, unknown>) => void;
}) {
  const show = useShow(({ desk }) => desk.show);
  return macro.asks.map((asked) => {
    const to = ASKED_TARGETS[asked.kind];
    const value = given[asked.name];
    const set = (next: unknown) => {
      const rest = Object.fromEntries(Object.entries(given).filter(([name]) => name !== asked.name));
      onChange(next === undefined || next === null || next === '' ? rest : { ...rest, [asked.name]: next });
    };
    const otherwise = otherwiseWords(show, asked);
    if (to !== null)
      return (
        <ThingChoice
          key={asked.id}
          label={asked.name}
          none={otherwise === '' ? '– choose' : `otherwise ${otherwise}`}
          pictures={arePictures(to)}
          value={typeof value === 'string' ? value : null}
          all={entitiesOf(show, to)}
          onChange={set}
        />
      );
    return (
      <Line
        key={asked.id}
        showLabel
        empty
        max={200}
        label={otherwise === '' ? asked.name : `${asked.name} (otherwise ${otherwise})`}
        value={value === undefined ? '' : String(value)}
        onSave={(text) => set(asked.kind === 'number' && Number.isFinite(Number(text)) && text !== '' ? Number(text) : text)}
      />
    );
  });
}

/** The fields of a command. `asks` is what the macro around it asks for: each argument may be one of these. */
export function CommandFields({
  act,
  onChange,
  asks = [],
}: {
  act: CommandAct;
  onChange: (act: CommandAct) => void;
  asks?: readonly Asked[];
}) {
  const macros = useShow(({ desk }) => desk.show.automation.macros);
  const spec = findCommand(act.type);
  if (!spec) return <p className="text-sm text-caution">There is no command “{act.type}” here.</p>;
  const runs = macros.find((m) => m.id === act.args.macro);
  const set = (name: string, value: unknown) => {
    const args: Record<string, unknown> = { ...act.args };
    if (value === undefined) delete args[name];
    else args[name] = value;
    onChange({ ...act, args });
  };
  return (
    <>
      <p className="text-[13px] text-muted">{aboutForPeople(spec)}</p>
      {offered(spec, act.args).map((field) => (
        <div key={field.name} className="flex items-end gap-1">
          <div className="min-w-0 flex-1">
            {askedIn(act.args[field.name]) === null ? (
              <Argument field={field} value={act.args[field.name]} onChange={(value) => set(field.name, value)} />
            ) : (
              <p className="text-[13px] text-muted">
                {labelOf(field)}
                <span className="block py-1 text-base text-straw">‹{askedIn(act.args[field.name])}›</span>
              </p>
            )}
          </div>
          {asks.length > 0 && (
            <select
              aria-label={`${labelOf(field)}: as it is given`}
              title="What the macro asks for stands here"
              className="w-24 shrink-0"
              value={askedIn(act.args[field.name]) ?? ''}
              onChange={(e) => set(field.name, e.target.value === '' ? undefined : { asked: e.target.value })}
            >
              <option value="">fixed</option>
              {asks.map((a) => (
                <option key={a.id} value={a.name}>
                  ‹{a.name}›
                </option>
              ))}
            </select>
          )}
        </div>
      ))}
      {act.type === 'macro.run' && runs && (
        <GivenFields
          macro={runs}
          given={(act.args.given ?? {}) as Record<string, unknown>}
          onChange={(given) => set('given', Object.keys(given).length === 0 ? undefined : given)}
        />
      )}
    </>
  );
}
