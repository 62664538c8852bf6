/** Fields of a graphic: what an operator fills in, and which properties each gives. */
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { FORMULA_KINDS, type Field, type FieldKind, type Graphic, TARGETS, type TargetProperty } from '#core/graphics/document';
import { type Element } from '#core/graphics/element';
import { useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { FormulaField } from './formula-field';
import { Check, Line, Part } from '../parts/fields';
import { ValueField } from './value-field';

const KINDS: readonly FieldKind[] = ['text', 'number', 'image', 'colour', 'flag', 'choice', 'clock', 'picture'];
const PROPERTY_WORDS: Record<TargetProperty, string> = {
  content: 'what it shows',
  fill: 'fill colour',
  stroke: 'stroke colour',
  visible: 'shown or not',
  opacity: 'opacity',
  x: 'x',
  y: 'y',
  width: 'width',
  height: 'height',
  rotation: 'rotation',
  size: 'size of the type',
  part: 'a part of it',
};

function FieldCard({ graphic, field, index }: { graphic: Graphic; field: Field; index: number }) {
  const send = useSend();
  const of = { graphic: graphic.id, field: field.id };
  const set = (change: object) => send('field.set', { ...of, ...change });
  const { kind } = field.default;
  return (
    <li className="flex flex-col gap-1 border border-line p-1.5">
      <div className="flex items-center gap-1">
        <Line label={`Name of field ${index + 1}`} value={field.name} max={60} onSave={(name) => set({ name })} />
        <span className="text-xs text-muted">{kind}</span>
        <Button
          look="quiet"
          className="px-0.5!"
          aria-label={`${field.name} earlier`}
          onClick={() => send('field.move', { ...of, index: Math.max(0, index - 1) })}
        >
          <ArrowUp size={13} />
        </Button>
        <Button
          look="quiet"
          className="px-0.5!"
          aria-label={`${field.name} later`}
          onClick={() => send('field.move', { ...of, index: index + 1 })}
        >
          <ArrowDown size={13} />
        </Button>
        <Button look="quiet" className="px-0.5!" aria-label={`Remove the field ${field.name}`} onClick={() => send('field.remove', of)}>
          <Trash2 size={13} />
        </Button>
      </div>
      <Line label={`Hint of ${field.name}`} value={field.hint} max={200} empty onSave={(hint) => set({ hint })} />
      <div className="flex items-center gap-1 text-xs text-muted">
        default
        <span className="min-w-0 flex-1">
          <ValueField
            field={{ ...field, name: `Default of ${field.name}`, hint: '' }}
            value={field.default}
            onChange={(value) => set({ default: value })}
          />
        </span>
      </div>
      {kind === 'number' && (
        <div className="grid grid-cols-2 gap-1">
          <NumberField
            showLabel
            label={`Least of ${field.name}`}
            digits={2}
            min={-1e12}
            max={1e12}
            value={field.least ?? 0}
            onCommit={(least) => set({ least })}
          />
          <NumberField
            showLabel
            label={`Most of ${field.name}`}
            digits={2}
            min={-1e12}
            max={1e12}
            value={field.most ?? 100}
            onCommit={(most) => set({ most })}
          />
        </div>
      )}
      {kind === 'text' && (
        <NumberField
          showLabel
          label={`Longest ${field.name}, characters`}
          min={1}
          max={10_000}
          value={field.longest ?? 10_000}
          onCommit={(longest) => set({ longest: Math.round(longest) })}
        />
      )}
      {kind === 'choice' && (
        <Line
          label={`Choices of ${field.name}, parted by commas`}
          empty
          value={field.choices.join(', ')}
          max={2000}
          onSave={(text) =>
            set({
              choices: text
                .split(',')
                .map((c) => c.trim())
                .filter(Boolean)
                .slice(0, 100),
            })
          }
        />
      )}
      {FORMULA_KINDS.includes(kind) && <FormulaField graphic={graphic} field={field} onSave={(formula) => set({ formula })} />}
      <p className="text-xs text-muted">
        gives{' '}
        {field.targets.length === 0
          ? 'nothing yet'
          : field.targets
              .map((t) => `${graphic.elements.find((e) => e.id === t.elementId)?.name ?? '?'}: ${PROPERTY_WORDS[t.property]}`)
              .join(', ')}
      </p>
    </li>
  );
}

/** All fields in their order. */
export function FieldList({ graphic }: { graphic: Graphic }) {
  const send = useSend();
  return (
    <Part
      title="Fields in the order of filling in"
      action={
        <select
          aria-label="Add a field of a kind"
          value=""
          onChange={(e) => e.target.value !== '' && send('field.add', { graphic: graphic.id, kind: e.target.value })}
        >
          <option value="">Add…</option>
          {KINDS.map((kind) => (
            <option key={kind}>{kind}</option>
          ))}
        </select>
      }
    >
      {graphic.fields.length === 0 && (
        <p className="text-xs text-muted">None yet. Choose an element and let a property of it be a field.</p>
      )}
      <ul className="flex flex-col gap-1.5">
        {graphic.fields.map((field, i) => (
          <FieldCard key={field.id} graphic={graphic} field={field} index={i} />
        ))}
      </ul>
    </Part>
  );
}

/** Which field gives a property of an element, or a part of it. */
function FieldChoice({
  graphic,
  target,
  what,
  label,
  none,
}: {
  graphic: Graphic;
  target: { element: string; property: TargetProperty; part?: string };
  /** What is given, for people. */
  what: string;
  label: string;
  none: string;
}) {
  const send = useSend();
  const { element, property, part = null } = target;
  const field = graphic.fields.find((f) => f.targets.some((t) => t.elementId === element && t.property === property && t.part === part));
  const of = { graphic: graphic.id, ...target };
  return (
    <label className="flex items-center gap-1.5 text-sm">
      <span className="w-28 shrink-0 truncate text-xs text-muted" title={what}>
        {what}
      </span>
      <select
        aria-label={label}
        className="min-w-0 flex-1"
        value={field?.id ?? ''}
        onChange={(e) => {
          if (e.target.value === ' new') send('field.add', of);
          else if (e.target.value === '' && field) send('field.target', { ...of, field: field.id, on: false });
          else if (e.target.value !== '') send('field.target', { ...of, field: e.target.value, on: true });
        }}
      >
        <option value="">{none}</option>
        <option value=" new">a new field…</option>
        {graphic.fields.map((f) => (
          <option key={f.id} value={f.id}>
            {f.name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Which properties of the chosen element, and which parts of an animation, fields give. */
export function ElementFields({ graphic, element, set }: { graphic: Graphic; element: Element; set: (change: object) => void }) {
  const { content } = element;
  const shows = ['text', 'image', 'clock', 'window'].includes(content.kind);
  const properties = TARGETS.filter((t) => (t === 'content' ? shows : t === 'size' ? 'style' in content : t !== 'part'));
  return (
    <>
      {content.kind === 'animation' && (
        <Part title="Parts of the animation">
          {content.parts.map(({ id, name }) => (
            <FieldChoice
              key={id}
              graphic={graphic}
              target={{ element: element.id, property: 'part', part: id }}
              what={name}
              label={`Field for ${name}`}
              none="as in the file"
            />
          ))}
          {content.parts.length === 0 && <p className="text-xs text-muted">Nothing in it can be filled in.</p>}
        </Part>
      )}
      <Part title={`Fields of ${element.name}`}>
        {properties.map((property) => (
          <FieldChoice
            key={property}
            graphic={graphic}
            target={{ element: element.id, property }}
            what={PROPERTY_WORDS[property]}
            label={`Field for ${PROPERTY_WORDS[property]} of ${element.name}`}
            none="no field"
          />
        ))}
        <Check label="hides while its field is empty" on={element.hideWhenEmpty} onChange={(hideWhenEmpty) => set({ hideWhenEmpty })} />
      </Part>
    </>
  );
}
