/** The framings of the show, and everything about the chosen one. */
import { Plus, Trash2 } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { type Framing } from '#core/layout/document';
import { type Grade, NO_CROP, PLAIN_GRADE } from '#core/layout/look';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Monitor } from '../parts/monitor';
import { NumberField } from '../parts/number-field';
import { FramingCanvas } from './framing-canvas';
import { KeyFields } from './key-fields';
import { PictureSelect } from '../parts/picture-select';

const PROPORTIONS: [string, number | null][] = [
  ['as it comes', null],
  ['16:9', 16 / 9],
  ['4:3', 4 / 3],
  ['1:1', 1],
];

const GRADE_FIELDS: [keyof Grade, string, number, number][] = [
  ['lift', 'Lift', -50, 50],
  ['gamma', 'Gamma', 20, 500],
  ['gain', 'Gain', 0, 400],
  ['saturation', 'Saturation', 0, 400],
  ['warmth', 'Warmth', -100, 100],
  ['tint', 'Tint', -100, 100],
];

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="flex flex-col gap-1.5 border-t border-line px-2 py-1.5">
      <h3 className="text-xs font-semibold text-muted">{title}</h3>
      {children}
    </div>
  );
}

function FramingFields({ framing, picking, onPick }: { framing: Framing; picking: boolean; onPick: () => void }) {
  const send = useSend();
  const { firstSource, eye } = useShow(({ desk: { show } }) => ({
    firstSource: show.sources[0]?.id ?? null,
    eye: show.eyes.some((e) => e.pictureId === framing.id),
  }));
  const set = (change: Partial<Framing>) => send('framing.set', { framing: framing.id, ...change });
  const { crop } = framing;
  const grade = framing.grade ?? PLAIN_GRADE;
  const share = (label: string, value: number, onCommit: (share: number) => void, min: number, max: number) => (
    <NumberField
      className="w-17"
      showLabel
      label={label}
      unit="%"
      min={min}
      max={max}
      digits={1}
      value={Math.round(value * 1000) / 10}
      onCommit={(v) => onCommit(v / 100)}
    />
  );
  const usual = PROPORTIONS.findIndex(([, value]) => value === framing.aspect);
  return (
    <aside className="flex min-h-0 flex-col overflow-y-auto border-l border-line" aria-label="Framing">
      <div className="flex flex-wrap items-end gap-1.5 p-2">
        <input
          key={framing.id + framing.name}
          aria-label="Name of the framing"
          className="w-full font-semibold"
          defaultValue={framing.name}
          maxLength={80}
          onBlur={(e) => e.target.value.trim() && e.target.value !== framing.name && set({ name: e.target.value.trim() })}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        <NumberField
          className="w-28"
          showLabel
          label="Number, 0 for none"
          min={0}
          max={99}
          value={framing.number ?? 0}
          onCommit={(v) => set({ number: v === 0 ? null : v })}
        />
        <Button className="ml-auto" onClick={() => send('picture.setNext', { picture: framing.id })}>
          To Next
        </Button>
      </div>
      <Section title="Crop">
        <div className="flex flex-wrap gap-1.5">
          {share('Left', crop.left, (left) => set({ crop: { ...crop, left } }), 0, 99)}
          {share('Top', crop.top, (top) => set({ crop: { ...crop, top } }), 0, 99)}
          {share('Right', crop.right, (right) => set({ crop: { ...crop, right } }), 0, 99)}
          {share('Bottom', crop.bottom, (bottom) => set({ crop: { ...crop, bottom } }), 0, 99)}
        </div>
        <Button onClick={() => set({ crop: NO_CROP, zoom: 1, panX: 0, panY: 0 })}>Whole picture</Button>
      </Section>
      <Section title="Zoom and pan">
        <div className="flex flex-wrap gap-1.5">
          <NumberField
            className="w-17"
            showLabel
            label="Zoom"
            unit="×"
            min={1}
            max={20}
            digits={2}
            value={framing.zoom}
            onCommit={(zoom) => set({ zoom })}
          />
          {share('Pan →', framing.panX, (panX) => set({ panX }), -100, 100)}
          {share('Pan ↓', framing.panY, (panY) => set({ panY }), -100, 100)}
        </div>
      </Section>
      <Section title="True proportions">
        <div className="flex flex-wrap items-center gap-1.5">
          {PROPORTIONS.map(([label, value], i) => (
            <Button key={label} pressed={usual === i} onClick={() => set({ aspect: value })}>
              {label}
            </Button>
          ))}
          <NumberField
            className="w-20"
            label="Width by height, typed"
            min={0}
            max={10}
            digits={3}
            value={framing.aspect ?? 0}
            onCommit={(v) => set({ aspect: v < 0.1 ? null : v })}
          />
        </div>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={framing.mirror} onChange={(e) => set({ mirror: e.target.checked })} /> mirrored
        </label>
      </Section>
      <Section title="Colour">
        <div className="flex flex-wrap gap-1.5">
          {GRADE_FIELDS.map(([key, label, min, max]) => (
            <span key={key}>{share(label, grade[key], (value) => set({ grade: { ...grade, [key]: value } }), min, max)}</span>
          ))}
        </div>
        {framing.grade && <Button onClick={() => set({ grade: null })}>Colours as they come</Button>}
      </Section>
      <Section title="Key">
        <KeyFields value={framing.key} firstSource={firstSource} onChange={(key) => set({ key })} onPick={onPick} />
        {picking && <p className="text-xs text-next">Press the backing in the picture.</p>}
      </Section>
      <Section title="Eyes">
        <p className="text-xs text-muted">Drag the green mark onto the eyes, once. Boxes can then be framed by them.</p>
        {eye && <Button onClick={() => send('source.setEyes', { picture: framing.id, x: null, y: null })}>Take the mark away</Button>}
      </Section>
    </aside>
  );
}

/** The list of framings by source. */
export function FramingsList({ openId, onOpen }: { openId: string | null; onOpen: (id: string) => void }) {
  const host = useShowClient();
  const send = useSend();
  const { sources, framings } = useShow(({ desk: { show } }) => ({ sources: show.sources, framings: show.framings }));
  const [source, setSource] = useState<string | null>(null);
  const add = () => {
    const id = source ?? sources[0]?.id;
    const done = id === undefined ? null : host.dispatch({ type: 'framing.add', args: { source: id } });
    if (done?.ok) onOpen(String(done.result.id));
  };
  return (
    <div className="flex flex-col gap-2 p-2">
      <div className="flex gap-1">
        <PictureSelect
          className="min-w-0 flex-1"
          label="Source of the new framing"
          kinds={['source']}
          none="source…"
          value={source ?? sources[0]?.id ?? null}
          onChange={setSource}
        />
        <Button unusable={sources.length > 0 ? null : 'Add a source at the Desk first.'} onClick={add}>
          <Plus size={15} /> Framing
        </Button>
      </div>
      {framings.length === 0 && (
        <p className="text-xs text-muted">
          No framings yet. A framing is a way of using a source: a crop, a zoom, proportions, colours, a key.
        </p>
      )}
      <ul className="flex flex-col gap-1.5">
        {framings.map((f) => (
          <li key={f.id} className={`flex items-center gap-1.5 bg-panel ${f.id === openId ? 'outline-2 outline-straw' : ''}`}>
            <button
              type="button"
              className="flex min-w-0 flex-1 items-center gap-2 text-left"
              aria-pressed={f.id === openId}
              onClick={() => onOpen(f.id)}
            >
              <Monitor picture={{ kind: 'picture', id: f.id }} label="" className="aspect-video w-24 shrink-0 bg-black" />
              <span className="line-clamp-2 text-[13px]">{f.name}</span>
            </button>
            <IconButton label={`Remove the framing ${f.name}`} onClick={() => send('framing.remove', { framing: f.id })}>
              <Trash2 size={14} />
            </IconButton>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** One framing: the source with its crop, eyes and colour to pick; the result beside its key. */
export function FramingEditor({ framingId }: { framingId: string | null }) {
  const send = useSend();
  const { framing, size, eye } = useShow(({ desk: { show }, sizes }) => {
    const found = show.framings.find((f) => f.id === framingId) ?? show.framings[0];
    return {
      framing: found,
      size: (found && sizes[found.sourceId]) ?? show.raster,
      eye: show.eyes.find((e) => e.pictureId === found?.id) ?? null,
    };
  });
  const [picking, setPicking] = useState(false);
  if (!framing) return <p className="p-6 text-muted">Choose a source at the left and add a framing of it.</p>;
  const picked = (colour: string) => {
    setPicking(false);
    if (framing.key?.kind === 'chroma') send('framing.set', { framing: framing.id, key: { ...framing.key, colour } });
  };
  return (
    <>
      <div className="flex min-h-0 min-w-0 flex-col">
        <FramingCanvas framing={framing} size={size} eye={eye} picking={picking} onPicked={picked} />
        <div className="flex h-[32%] shrink-0 gap-3 border-t border-line p-2">
          <figure className="flex min-w-0 flex-1 flex-col">
            <Monitor
              picture={{ kind: 'picture', id: framing.id }}
              label="The framing"
              className="min-h-0 flex-1 bg-[repeating-conic-gradient(#1b2a2e_0_25%,#142023_0_50%)]"
            />
            <figcaption className="text-xs text-muted">The framing, as it is switched</figcaption>
          </figure>
          <figure className="flex min-w-0 flex-1 flex-col">
            <Monitor picture={{ kind: 'picture', id: framing.id, matte: true }} label="The key of the framing" className="min-h-0 flex-1" />
            <figcaption className="text-xs text-muted">Its key: white stays, black goes</figcaption>
          </figure>
        </div>
      </div>
      <FramingFields framing={framing} picking={picking} onPick={() => setPicking(!picking)} />
    </>
  );
}
