/** The graphic as a whole: name, number, moves, stinger, fields, guides. */
import { Trash2 } from 'lucide-react';
import { move as createMove } from '#core/graphics/create';
import { type Graphic } from '#core/graphics/document';
import { WHOLE_WAYS } from '#core/graphics/element';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Check, Line, Num, Numbers, Part } from '../parts/fields';
import { FieldList } from './fields-panel';
import { LeavePart } from './leave-part';
import { MoveFields } from './moves-panel';

/** What all graphics of the show share: finishes kept by name, fonts of its own. */
function Shared() {
  const send = useSend();
  const { finishes, fonts } = useShow(({ desk: { show } }) => show.graphics);
  const bin = (label: string, onClick: () => void) => (
    <IconButton label={label} onClick={onClick}>
      <Trash2 size={14} />
    </IconButton>
  );
  return (
    <>
      <Part title="Finishes of the show">
        {finishes.map(({ id, name }) => (
          <div key={id} className="flex items-center gap-1">
            <Line
              label={`Name of the finish ${name}`}
              value={name}
              max={60}
              onSave={(next) => send('finish.rename', { finish: id, name: next })}
            />
            {bin(`Remove the finish ${name}`, () => send('finish.remove', { finish: id }))}
          </div>
        ))}
        {finishes.length === 0 && <p className="text-xs text-muted">None is kept. Choose an element, and keep its look under Look.</p>}
      </Part>
      <Part title="Fonts of the show’s own">
        {fonts.map(({ id, family, fileName }) => (
          <div key={id} className="flex items-center gap-1">
            <span className="min-w-0 flex-1 truncate" title={fileName}>
              {family}
            </span>
            {bin(`Remove the font ${family}`, () => send('font.remove', { font: id }))}
          </div>
        ))}
        {fonts.length === 0 && <p className="text-xs text-muted">None. A text brings one in, under its family.</p>}
      </Part>
    </>
  );
}

export function GraphicPanel({ graphic }: { graphic: Graphic }) {
  const send = useSend();
  const set = (change: object) => send('graphic.set', { graphic: graphic.id, ...change });
  const guides = (next: Graphic['guides']) => send('graphic.setGuides', { graphic: graphic.id, guides: next });
  const { width, height } = graphic.raster;
  return (
    <>
      <Part title="Graphic">
        <Line strong label="Name of the graphic" value={graphic.name} max={80} onSave={(name) => set({ name })} />
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
        <p className="text-xs text-muted">Pull one out of the ruler above the picture or at its left; back there it is gone.</p>
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
            <IconButton label={`Remove guide ${i + 1}`} onClick={() => guides(graphic.guides.filter((_, n) => n !== i))}>
              <Trash2 size={14} />
            </IconButton>
          </div>
        ))}
      </Part>
      <LeavePart graphic={graphic} />
      <Shared />
    </>
  );
}
