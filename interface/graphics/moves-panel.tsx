/** How elements come, go and change, and their keyframes. */
import { Plus, Trash2 } from 'lucide-react';
import { holdMove, move as createMove } from '#core/graphics/create';
import { type Graphic } from '#core/graphics/document';
import {
  type Element,
  type ElementMove,
  type HoldMove,
  KEYED,
  type Keyframe,
  MOVE_WAYS,
  type MoveWay,
  WHOLE_WAYS,
} from '#core/graphics/element';
import { EASINGS, EDGES } from '#core/show/moves';
import { useSend } from '../client/show-client';
import { EASING_NAMES } from '../desk/transition-fields';
import { Button } from '../parts/button';
import { Check, Choice, Num, Numbers, Part } from '../parts/fields';

const WAY_WORDS: Record<MoveWay, string> = {
  fade: 'fades',
  slide: 'slides over an edge',
  wipe: 'wipes from an edge',
  scale: 'grows',
  blur: 'out of a blur',
  turn: 'turns in',
  letters: 'letter by letter',
  words: 'word by word',
  count: 'numbers roll',
};

/** The settings of one move. */
export function MoveFields({
  label,
  move,
  ways = MOVE_WAYS,
  onChange,
}: {
  label: string;
  move: ElementMove;
  ways?: readonly MoveWay[];
  onChange: (change: Partial<ElementMove>) => void;
}) {
  return (
    <Numbers>
      <Choice
        label={`${label}: how`}
        value={move.way}
        all={ways.map((w) => [w, WAY_WORDS[w]] as const)}
        onChange={(way) => onChange({ way })}
      />
      <Choice label={`${label}: edge`} value={move.edge} all={EDGES.map((e) => [e, e] as const)} onChange={(edge) => onChange({ edge })} />
      <Num
        label={`${label}: begins after`}
        unit="fr"
        digits={0}
        min={0}
        max={3000}
        value={move.start}
        onCommit={(start) => onChange({ start: Math.round(start) })}
      />
      <Num
        label={`${label}: length`}
        unit="fr"
        digits={0}
        min={0}
        max={3000}
        value={move.frames}
        onCommit={(frames) => onChange({ frames: Math.round(frames) })}
      />
      <Choice
        label={`${label}: pace`}
        value={move.easing}
        all={EASINGS.map((e) => [e, EASING_NAMES[e]] as const)}
        onChange={(easing) => onChange({ easing })}
      />
    </Numbers>
  );
}

const PHASES = [
  ['in', 'Comes'],
  ['out', 'Goes'],
  ['change', 'Changes'],
] as const;

function Keyframes({ graphic, element }: { graphic: Graphic; element: Element }) {
  const send = useSend();
  const save = (keyframes: Keyframe[]) => send('element.setKeyframes', { graphic: graphic.id, element: element.id, keyframes });
  const put = (index: number, change: Partial<Keyframe>) => save(element.keyframes.map((k, i) => (i === index ? { ...k, ...change } : k)));
  return (
    <Part
      title="Keyframes"
      action={
        <Button
          aria-label="Add a keyframe"
          onClick={() =>
            save([
              ...element.keyframes,
              { phase: 'in', property: 'x', frame: element.keyframes.length * 12, value: element.x, easing: 'in-out' },
            ])
          }
        >
          <Plus size={14} /> Key
        </Button>
      }
    >
      {element.keyframes.map((k, i) => (
        <div key={i} className="grid grid-cols-[1fr_1fr_auto] gap-1 border-l-2 border-line pl-1">
          <Choice
            label={`Key ${i + 1}: phase`}
            value={k.phase}
            all={[
              ['in', 'comes'],
              ['hold', 'stays'],
              ['out', 'goes'],
            ]}
            onChange={(phase) => put(i, { phase })}
          />
          <Choice
            label={`Key ${i + 1}: property`}
            value={k.property}
            all={KEYED.map((p) => [p, p] as const)}
            onChange={(property) => put(i, { property, value: element[property] })}
          />
          <Button
            look="quiet"
            className="self-end px-1!"
            aria-label={`Remove key ${i + 1}`}
            onClick={() => save(element.keyframes.filter((_, n) => n !== i))}
          >
            <Trash2 size={14} />
          </Button>
          <Num
            label={`Key ${i + 1}: frame`}
            digits={0}
            min={0}
            max={9000}
            value={k.frame}
            onCommit={(frame) => put(i, { frame: Math.round(frame) })}
          />
          <Num label={`Key ${i + 1}: value`} digits={2} min={-20000} max={20000} value={k.value} onCommit={(value) => put(i, { value })} />
        </div>
      ))}
      {element.keyframes.length === 0 && (
        <p className="text-xs text-muted">None. Keys give a property a value at a frame; between two it runs.</p>
      )}
    </Part>
  );
}

const HOLD_WORDS: Record<HoldMove['way'], string> = {
  fade: 'fades and comes back',
  slide: 'slides off and back',
  wipe: 'is wiped and back',
  scale: 'shrinks and grows back',
  turn: 'turns and back',
};

/** What an element does again and again while its graphic stands. */
function Holds({ move, onChange }: { move: HoldMove; onChange: (change: Partial<HoldMove>) => void }) {
  const words = 'Stays';
  return (
    <Numbers>
      <Choice
        label={`${words}: how`}
        value={move.way}
        all={WHOLE_WAYS.map((w) => [w, HOLD_WORDS[w]] as const)}
        onChange={(way) => onChange({ way })}
      />
      <Num label={`${words}: how far`} unit="%" min={0} max={100} value={move.depth * 100} onCommit={(p) => onChange({ depth: p / 100 })} />
      {(
        [
          ['start', 'begins after', 'fr', 3000],
          ['frames', 'length', 'fr', 3000],
          ['rest', 'rests for', 'fr', 9000],
          ['times', 'times, 0 for ever', '', 1000],
        ] as const
      ).map(([property, label, unit, max]) => (
        <Num
          key={property}
          label={`${words}: ${label}`}
          unit={unit}
          digits={0}
          min={0}
          max={max}
          value={move[property]}
          onCommit={(n) => onChange({ [property]: Math.round(n) })}
        />
      ))}
      <Choice label={`${words}: edge`} value={move.edge} all={EDGES.map((e) => [e, e] as const)} onChange={(edge) => onChange({ edge })} />
      <Choice
        label={`${words}: pace`}
        value={move.easing}
        all={EASINGS.map((e) => [e, EASING_NAMES[e]] as const)}
        onChange={(easing) => onChange({ easing })}
      />
    </Numbers>
  );
}

export function MovesPanel({ graphic, elements, set }: { graphic: Graphic; elements: readonly Element[]; set: (change: object) => void }) {
  const send = useSend();
  const first = elements[0] as Element;
  const of = { graphic: graphic.id, elements: elements.map((e) => e.id) };
  return (
    <>
      {PHASES.map(([phase, words]) => {
        const move = first[phase];
        return (
          <Part
            key={phase}
            title={words}
            action={
              <Check
                label={`${words.toLowerCase()} by itself`}
                on={move !== null}
                onChange={(on) => set({ [phase]: on ? createMove('fade', 12) : null })}
              />
            }
          >
            {move && <MoveFields label={words} move={move} onChange={(change) => send('element.move', { ...of, phase, ...change })} />}
          </Part>
        );
      })}
      <Part
        title="While it stays"
        action={
          <Check label="moves while it stays" on={first.hold !== null} onChange={(on) => set({ hold: on ? holdMove('fade', 50) : null })} />
        }
      >
        {first.hold && <Holds move={first.hold} onChange={(change) => set({ hold: { ...first.hold, ...change } })} />}
      </Part>
      {elements.length === 1 && <Keyframes graphic={graphic} element={first} />}
    </>
  );
}
