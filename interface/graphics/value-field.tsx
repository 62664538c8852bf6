/** One field of an entry, filled in: by the kind of its value. */
import { useRef } from 'react';
import { type Field, type Value } from '#core/graphics/document';
import { useShow } from '../client/show-client';
import { FileButton } from '../parts/file-button';
import { NumberField } from '../parts/number-field';
import { PictureSelect } from '../parts/picture-select';
import { useDraft } from '../parts/use-draft';
import { useAddImage } from './images';

/** Texts longer than this get several lines. */
const LONG = 90;

interface Props<K extends Value['kind']> {
  field: Field;
  value: Extract<Value, { kind: K }>;
  onChange: (value: Value) => void;
  /** Where keys go to it. */
  entry?: string | undefined;
}

function TextValue({ field, value, onChange, entry }: Props<'text'>) {
  const [text, setText] = useDraft(value.text);
  const escaped = useRef(false);
  const save = () => {
    if (!escaped.current && text !== value.text) onChange({ kind: 'text', text });
    escaped.current = false;
  };
  const shared = {
    'aria-label': field.name,
    'data-entry': entry,
    title: field.hint || undefined,
    placeholder: field.hint || field.name,
    maxLength: field.longest ?? undefined,
    value: text,
    onBlur: save,
    onChange: (e: { target: { value: string } }) => setText(e.target.value),
    onKeyDown: (e: React.KeyboardEvent) => {
      if (e.key === 'Enter' && !e.shiftKey) save();
      if (e.key === 'Escape') {
        escaped.current = true;
        setText(value.text);
      }
    },
  };
  const long = (field.longest ?? 0) > LONG || value.text.includes('\n');
  return long ? <textarea rows={2} className="w-full resize-y" {...shared} /> : <input className="w-full min-w-0" {...shared} />;
}

function ImageValue({ field, value, onChange }: Props<'image'>) {
  const addImage = useAddImage();
  return (
    <span className="flex gap-1">
      <FileButton
        label={`Image file for ${field.name}`}
        accept="image/*"
        onFile={(file) => void addImage(file).then((assetId) => assetId && onChange({ kind: 'image', assetId }))}
      >
        {value.assetId === null ? 'Choose an image…' : 'Another image…'}
      </FileButton>
    </span>
  );
}

function ClockSelect({ field, value, onChange }: Props<'clock'>) {
  const clocks = useShow(({ desk }) => desk.show.graphics.clocks);
  return (
    <select
      aria-label={field.name}
      value={value.clockId ?? ''}
      onChange={(e) => onChange({ kind: 'clock', clockId: e.target.value || null })}
    >
      <option value="">no clock</option>
      {clocks.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** The control for a value of any kind. */
export function ValueField({
  field,
  value,
  onChange,
  entry,
}: {
  field: Field;
  value: Value;
  onChange: (value: Value) => void;
  entry?: string | undefined;
}) {
  switch (value.kind) {
    case 'text':
      return <TextValue field={field} value={value} onChange={onChange} entry={entry} />;
    case 'number':
      return (
        <NumberField
          label={field.name}
          min={field.least ?? -1e12}
          max={field.most ?? 1e12}
          digits={3}
          value={value.number}
          onCommit={(number) => onChange({ kind: 'number', number })}
        />
      );
    case 'colour':
      return (
        <input
          type="color"
          aria-label={field.name}
          className="h-8 w-14 p-0.5!"
          value={value.colour}
          onChange={(e) => onChange({ kind: 'colour', colour: e.target.value })}
        />
      );
    case 'flag':
      return (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            aria-label={field.name}
            checked={value.on}
            onChange={(e) => onChange({ kind: 'flag', on: e.target.checked })}
          />
          {value.on ? 'on' : 'off'}
        </label>
      );
    case 'choice':
      return (
        <select aria-label={field.name} value={value.choice} onChange={(e) => onChange({ kind: 'choice', choice: e.target.value })}>
          <option value="">nothing</option>
          {field.choices.map((choice) => (
            <option key={choice}>{choice}</option>
          ))}
        </select>
      );
    case 'image':
      return <ImageValue field={field} value={value} onChange={onChange} />;
    case 'clock':
      return <ClockSelect field={field} value={value} onChange={onChange} />;
    case 'picture':
      return (
        <PictureSelect
          label={field.name}
          kinds={['source', 'framing', 'seat', 'layout']}
          none="no picture"
          value={value.pictureId}
          onChange={(pictureId) => onChange({ kind: 'picture', pictureId })}
        />
      );
  }
}
