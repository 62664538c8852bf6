/** Small fields that properties are made of: of elements, steps, triggers. */
import { type ReactNode } from 'react';
import { NumberField } from './number-field';
import { SeePictures } from './see-pictures';
import { useDraft } from './use-draft';

/** A part of the properties under a heading. */
export function Part({ title, children, action }: { title: string; children: ReactNode; action?: ReactNode }) {
  return (
    <section aria-label={title} className="border-b border-line px-2 py-1.5">
      <div className="mb-1 flex items-center gap-1">
        <h3 className="flex-1 text-xs font-semibold text-muted">{title}</h3>
        {action}
      </div>
      <div className="flex flex-col gap-1.5">{children}</div>
    </section>
  );
}

/** Numbers side by side. */
export const Numbers = ({ children }: { children: ReactNode }) => <div className="grid grid-cols-2 gap-1.5">{children}</div>;

/** A number with its label above. */
export function Num(props: {
  label: string;
  value: number;
  min: number;
  max: number;
  whole?: number;
  digits?: number;
  unit?: string;
  className?: string;
  onCommit: (value: number) => void;
}) {
  return <NumberField showLabel digits={1} {...props} />;
}

/** One of a few words. */
export function Choice<T extends string>({
  label,
  value,
  all,
  onChange,
}: {
  label: string;
  value: T;
  all: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  return (
    <label className="flex min-w-0 flex-col gap-0.5">
      <span className="text-xs text-muted">{label}</span>
      <select aria-label={label} className="min-w-0" value={value} onChange={(e) => onChange(e.target.value as T)}>
        {all.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A colour with its opacity. */
export function ColourField({
  label,
  colour,
  opacity,
  onChange,
}: {
  label: string;
  colour: string;
  opacity?: number;
  onChange: (change: { colour?: string; opacity?: number }) => void;
}) {
  return (
    <div className="flex items-end gap-1.5">
      <label className="flex flex-col gap-0.5">
        <span className="text-xs text-muted">{label}</span>
        <input
          type="color"
          aria-label={label}
          className="h-8 w-14 p-0.5!"
          value={colour}
          onChange={(e) => onChange({ colour: e.target.value })}
        />
      </label>
      {opacity !== undefined && (
        <Num
          label={`${label}: opacity`}
          unit="%"
          min={0}
          max={100}
          value={opacity * 100}
          onCommit={(percent) => onChange({ opacity: percent / 100 })}
        />
      )}
    </div>
  );
}

/** On or off. */
export function Check({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex items-center gap-1.5 text-sm">
      <input type="checkbox" aria-label={label} checked={on} onChange={(e) => onChange(e.target.checked)} />
      {label}
    </label>
  );
}

/** One line of text, kept with Enter or when it is left. */
export function Line({
  label,
  value,
  onSave,
  max,
  empty = false,
  strong = false,
  showLabel = false,
}: {
  label: string;
  value: string;
  onSave: (text: string) => void;
  max: number;
  /** It may be empty; a name may not, and stays as it was. */
  empty?: boolean;
  strong?: boolean;
  showLabel?: boolean;
}) {
  const [text, setText] = useDraft(value);
  const save = () => {
    if (text === '' && !empty) setText(value);
    else if (text !== value) onSave(text);
  };
  const field = (
    <input
      aria-label={label}
      placeholder={showLabel ? undefined : label}
      className={`w-full min-w-0 ${strong ? 'font-semibold' : ''}`}
      maxLength={max}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={save}
      onKeyDown={(e) => {
        if (e.key === 'Enter') save();
        if (e.key === 'Escape') setText(value);
      }}
    />
  );
  if (!showLabel) return field;
  return (
    <label className="flex min-w-0 flex-1 flex-col gap-0.5">
      <span className="text-xs text-muted">{label}</span>
      {field}
    </label>
  );
}

/** Things that are listed: a list of thousands is no list to choose from. */
const MOST_LISTED = 1000;

/** One of the things of a show, or none yet. */
export function ThingChoice({
  label,
  name = label,
  value,
  all,
  none = '– choose',
  pictures = false,
  onChange,
}: {
  label: string;
  /** Its accessible name, where several have the same label. */
  name?: string;
  /** They are pictures: they can be chosen by seeing them, too. */
  pictures?: boolean;
  value: string | null;
  all: readonly { id: string; name: string }[];
  none?: string;
  onChange: (id: string | null) => void;
}) {
  const listed = all.slice(0, MOST_LISTED);
  const chosen = all.slice(MOST_LISTED).find((thing) => thing.id === value);
  return (
    <span className="flex min-w-0 flex-col gap-0.5">
      <span className="text-xs text-muted">{label}</span>
      <SeePictures
        label={name}
        options={pictures ? all.map(({ id, name: called }) => ({ key: id, name: called || id, pictureId: id })) : []}
        chosen={value}
        onChoose={onChange}
      >
        <select aria-label={name} className="min-w-0" value={value ?? ''} onChange={(e) => onChange(e.target.value || null)}>
          <option value="">{none}</option>
          {(chosen ? [...listed, chosen] : listed).map((thing) => (
            <option key={thing.id} value={thing.id}>
              {thing.name || thing.id}
            </option>
          ))}
        </select>
      </SeePictures>
    </span>
  );
}

/** A time of day, in seconds after midnight; null for none. */
export function TimeOfDayField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null;
  onChange: (seconds: number | null) => void;
}) {
  return (
    <label className="flex flex-col gap-0.5">
      <span className="text-xs text-muted">{label}</span>
      <input
        type="time"
        step={1}
        aria-label={label}
        value={value === null ? '' : new Date(value * 1000).toISOString().slice(11, 19)}
        onChange={(e) => {
          const [h = 0, m = 0, s = 0] = e.target.value.split(':').map(Number);
          onChange(e.target.value === '' ? null : h * 3600 + m * 60 + s);
        }}
      />
    </label>
  );
}
