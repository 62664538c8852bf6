/** How one lane comes, stays and goes. */
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { type Rect } from '#core/show/geometry';
import { type Lane, MOST_LANES, type Move, MOVE_KINDS } from '#core/picture/document';
import { EASINGS, EDGES } from '#core/show/moves';
import { useShow, useSend } from '../client/show-client';
import { KeyFields } from '../layouts/key-fields';
import { PictureSelect } from '../parts/picture-select';
import { IconButton } from '../parts/icon-button';
import { NumberField } from '../parts/number-field';
import { Sheet } from '../parts/sheet';
import { EASING_NAMES } from './transition-fields';

function MoveFields({ label, move, onChange }: { label: string; move: Move; onChange: (move: Move) => void }) {
  return (
    <div className="flex flex-wrap items-center gap-1">
      <span className="w-8 text-xs text-muted">{label}</span>
      <select
        aria-label={`${label}: how`}
        className="px-1!"
        value={move.kind}
        onChange={(e) => onChange({ ...move, kind: e.target.value as Move['kind'] })}
      >
        {MOVE_KINDS.map((kind) => (
          <option key={kind}>{kind}</option>
        ))}
      </select>
      {move.kind !== 'fade' && (
        <select
          aria-label={`${label}: edge`}
          className="px-1!"
          value={move.edge}
          onChange={(e) => onChange({ ...move, edge: e.target.value as Move['edge'] })}
        >
          {EDGES.map((edge) => (
            <option key={edge}>{edge}</option>
          ))}
        </select>
      )}
      <select
        aria-label={`${label}: pace`}
        className="px-1!"
        value={move.easing}
        onChange={(e) => onChange({ ...move, easing: e.target.value as Move['easing'] })}
      >
        {EASINGS.map((easing) => (
          <option key={easing} value={easing}>
            {EASING_NAMES[easing]}
          </option>
        ))}
      </select>
      <NumberField
        className="w-16"
        label={`${label}: frames`}
        unit="fr"
        min={0}
        max={600}
        value={move.frames}
        onCommit={(frames) => onChange({ ...move, frames })}
      />
    </div>
  );
}

/** Name, moves, place, key and company of a lane. */
export function LaneSettings({ lane, index, onClose }: { lane: Lane; index: number; onClose: () => void }) {
  const send = useSend();
  const { raster, firstSource } = useShow(({ desk: { show } }) => ({ raster: show.raster, firstSource: show.sources[0]?.id ?? null }));
  const set = (change: Partial<Lane>) => send('lane.set', { lane: lane.id, ...change });
  const rect = lane.rect;
  const side = (label: string, key: keyof Rect, whole: number) =>
    rect && (
      <NumberField
        className="w-16"
        showLabel
        label={label}
        min={key === 'x' || key === 'y' ? -20_000 : 1}
        max={20_000}
        whole={whole}
        value={rect[key]}
        onCommit={(v) => set({ rect: { ...rect, [key]: v } })}
      />
    );
  return (
    <Sheet title={lane.name} onClose={onClose}>
      <div className="mt-1.5 flex flex-col gap-1.5">
        <div className="flex flex-wrap items-end gap-2">
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Name</span>
            <input
              className="w-24"
              defaultValue={lane.name}
              onBlur={(e) => e.target.value.trim() && e.target.value !== lane.name && set({ name: e.target.value.trim() })}
            />
          </label>
          <NumberField
            className="w-14"
            showLabel
            label="Number"
            min={0}
            max={MOST_LANES}
            value={lane.number ?? 0}
            onCommit={(v) => set({ number: v === 0 ? null : Math.round(v) })}
          />
          <NumberField
            className="w-24"
            showLabel
            label="Leaves after, s"
            min={0}
            max={86400}
            digits={1}
            value={lane.holdSeconds ?? 0}
            onCommit={(v) => set({ holdSeconds: v < 0.2 ? null : v })}
          />
          <span className="pb-1 text-xs text-muted">0 stays</span>
        </div>
        <MoveFields label="In" move={lane.in} onChange={(move) => set({ in: move })} />
        <MoveFields label="Out" move={lane.out} onChange={(move) => set({ out: move })} />
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={rect !== null}
            onChange={(e) => set({ rect: e.target.checked ? { x: 0, y: 0, ...raster } : null })}
          />{' '}
          place of its own
        </label>
        {rect && (
          <div className="flex gap-1.5">
            {side('Left', 'x', raster.width)}
            {side('Top', 'y', raster.height)}
            {side('Width', 'width', raster.width)}
            {side('Height', 'height', raster.height)}
          </div>
        )}
        <label className="flex flex-col gap-0.5">
          <span className="text-xs text-muted">Up while this is on air</span>
          <PictureSelect
            label="Up while this is on air"
            kinds={['layout', 'source', 'framing', 'seat', 'preset', 'gathering']}
            none="by hand only"
            value={lane.whileId}
            onChange={(whileId) => set({ whileId })}
          />
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={lane.throughBlack} onChange={(e) => set({ throughBlack: e.target.checked })} /> stays over a fade
          to black
        </label>
        <KeyFields value={lane.key} firstSource={firstSource} onChange={(key) => set({ key })} />
        <div className="flex gap-1">
          <IconButton
            label={`${lane.name} over the next`}
            title="Further up"
            onClick={() => send('lane.move', { lane: lane.id, index: index + 1 })}
          >
            <ArrowUp size={15} />
          </IconButton>
          <IconButton
            label={`${lane.name} under the one before`}
            title="Further down"
            onClick={() => send('lane.move', { lane: lane.id, index: Math.max(0, index - 1) })}
          >
            <ArrowDown size={15} />
          </IconButton>
          <IconButton label={`Remove ${lane.name}`} className="ml-auto" onClick={() => send('lane.remove', { lane: lane.id })}>
            <Trash2 size={14} /> Remove
          </IconButton>
        </div>
      </div>
    </Sheet>
  );
}
