/** The graphic as a whole: name, number, moves, stinger, fields, guides. */
import { Trash2 } from 'lucide-react';
import { move as createMove } from '#core/graphics/create';
import { type Graphic } from '#core/graphics/document';
import { WHOLE_WAYS } from '#core/graphics/element';
import { useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { useDraft } from '../parts/use-draft';
import { Check, Num, Numbers, Part } from './fields';
import { FieldList } from './fields-panel';
import { MoveFields } from './moves-panel';

export function GraphicPanel({ graphic }: { graphic: Graphic }) {
  const send = useSend();
  const [name, setName] = useDraft(graphic.name);
  const set = (change: object) => send('graphic.set', { graphic: graphic.id, ...change });
  const save = () => void (name !== '' && name !== graphic.name && set({ name }));
  const guides = (next: Graphic['guides']) => send('graphic.setGuides', { graphic: graphic.id, guides: next });
  const { width, height } = graphic.raster;
  return (
    <>
      <Part title="Graphic">
        <input
          aria-label="Name of the graphic"
          className="w-full font-semibold"
          maxLength={80}
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={save}
          onKeyDown={(e) => e.key === 'Enter' && save()}
        />
        <Numbers>
          <Num
            label="Number on keys, 0 for none"
            digits={0}
            min={0}
            max={99}
            value={graphic.number ?? 0}
            onCommit={(n) => set({ number: n === 0 ? null : Math.round(n) })}
          />
          <span className="self-end pb-1 text-xs text-muted">
            drawn for {width} × {height}
          </span>
        </Numbers>
      </Part>
      <FieldList graphic={graphic} />
      {(
        [
          ['in', 'Comes as a whole'],
          ['out', 'Goes as a whole'],
        ] as const
      ).map(([phase, words]) => {
        const move = graphic[phase];
        return (
          <Part
            key={phase}
            title={words}
            action={<Check label="moves" on={move !== null} onChange={(on) => set({ [phase]: on ? createMove('fade', 12) : null })} />}
          >
            {move && (
              <MoveFields label={words} ways={WHOLE_WAYS} move={move} onChange={(change) => set({ [phase]: { ...move, ...change } })} />
            )}
          </Part>
        );
      })}
      <Part title="As a stinger">
        <Numbers>
          <Num
            label="Stinger: length"
            unit="fr"
            digits={0}
            min={1}
            max={3000}
            value={graphic.stingerFrames}
            onCommit={(stingerFrames) => set({ stingerFrames: Math.round(stingerFrames) })}
          />
          <Num
            label="Stinger: picture changes at"
            unit="fr"
            digits={0}
            min={0}
            max={3000}
            value={graphic.cutFrame}
            onCommit={(cutFrame) => set({ cutFrame: Math.round(cutFrame) })}
          />
        </Numbers>
      </Part>
      <Part
        title="Guides"
        action={
          <span className="flex gap-1">
            <Button onClick={() => guides([...graphic.guides, { axis: 'down', at: width / 2 }])}>Upright</Button>
            <Button onClick={() => guides([...graphic.guides, { axis: 'across', at: height / 2 }])}>Level</Button>
          </span>
        }
      >
        {graphic.guides.map((guide, i) => (
          <div key={i} className="flex items-end gap-1">
            <Num
              label={guide.axis === 'down' ? `Guide ${i + 1}: x` : `Guide ${i + 1}: y`}
              whole={guide.axis === 'down' ? width : height}
              min={-20000}
              max={20000}
              value={guide.at}
              onCommit={(at) => guides(graphic.guides.map((g, n) => (n === i ? { ...g, at } : g)))}
            />
            <Button
              look="quiet"
              className="px-1!"
              aria-label={`Remove guide ${i + 1}`}
              onClick={() => guides(graphic.guides.filter((_, n) => n !== i))}
            >
              <Trash2 size={14} />
            </Button>
          </div>
        ))}
      </Part>
    </>
  );
}
