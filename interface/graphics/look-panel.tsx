/** Fill, stroke and effects of elements, and finishes kept by name. */
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type Element } from '#core/graphics/element';
import { type Graphic } from '#core/graphics/document';
import { DASHES, type Fill, type GradientFill, IMAGE_FITS, MOST_STOPS, SPREADS, STROKE_PLACES } from '#core/graphics/fill';
import { spreadStops } from '#core/graphics/gradient';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { FileButton } from '../parts/file-button';
import { Check, Choice, ColourField, Num, Numbers, Part } from '../parts/fields';
import { useAddImage } from './images';

const FIRST_FILL: Record<Fill['kind'], Fill> = {
  none: { kind: 'none' },
  colour: { kind: 'colour', colour: '#e2c48d', opacity: 1 },
  linear: {
    kind: 'linear',
    stops: [
      { at: 0, colour: '#5aa9c9', opacity: 1 },
      { at: 1, colour: '#16405a', opacity: 1 },
    ],
    angle: 90,
    length: 1,
    spread: 'pad',
  },
  radial: {
    kind: 'radial',
    stops: [
      { at: 0, colour: '#f6f8f2', opacity: 1 },
      { at: 1, colour: '#16405a', opacity: 1 },
    ],
    angle: 0,
    length: 1,
    spread: 'pad',
  },
  picture: { kind: 'picture', assetId: null, fit: 'cover', opacity: 1 },
};

const rgba = (colour: string, opacity: number) => `color-mix(in srgb, ${colour} ${opacity * 100}%, transparent)`;

/** The bar of a gradient: stops are dragged, added by a press beside them, and removed. */
function GradientBar({ fill, onChange }: { fill: GradientFill; onChange: (fill: GradientFill) => void }) {
  const [chosen, setChosen] = useState(0);
  const { stops } = fill;
  const stop = stops[chosen] ?? stops[0];
  const put = (index: number, change: object) => onChange({ ...fill, stops: stops.map((s, i) => (i === index ? { ...s, ...change } : s)) });
  const placeOf = (event: { clientX: number; currentTarget: HTMLElement }): number => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
  };
  return (
    <>
      <div
        className="relative h-7 cursor-copy border border-line"
        style={{
          background: `linear-gradient(90deg, ${spreadStops({ ...fill, length: 1 })
            .map((s) => `${rgba(s.colour, s.opacity)} ${s.at * 100}%`)
            .join(', ')}), repeating-conic-gradient(#1b2a2e 0 25%, #142023 0 50%) 0 0 / 12px 12px`,
        }}
        onClick={(e) => {
          if (e.target !== e.currentTarget || stops.length >= MOST_STOPS) return;
          onChange({ ...fill, stops: [...stops, { at: placeOf(e), colour: stop?.colour ?? '#ffffff', opacity: stop?.opacity ?? 1 }] });
          setChosen(stops.length);
        }}
      >
        {stops.map((s, i) => (
          <button
            key={i}
            type="button"
            role="slider"
            aria-label={`Stop ${i + 1}`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(s.at * 100)}
            className={`absolute -top-1 h-9 w-3 -translate-x-1/2 border-2 ${i === chosen ? 'border-straw' : 'border-text'}`}
            style={{ left: `${s.at * 100}%`, background: s.colour }}
            onFocus={() => setChosen(i)}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              setChosen(i);
            }}
            onPointerMove={(e) => {
              const bar = e.currentTarget.parentElement;
              if (e.currentTarget.hasPointerCapture(e.pointerId) && bar)
                put(i, { at: placeOf({ clientX: e.clientX, currentTarget: bar }) });
            }}
            onKeyDown={(e) => {
              const by = e.key === 'ArrowLeft' ? -0.01 : e.key === 'ArrowRight' ? 0.01 : 0;
              if (by === 0) return;
              e.preventDefault();
              put(i, { at: Math.min(1, Math.max(0, s.at + by * (e.shiftKey ? 10 : 1))) });
            }}
          />
        ))}
      </div>
      {stop && (
        <div className="flex items-end gap-1.5">
          <ColourField label="Stop" colour={stop.colour} opacity={stop.opacity} onChange={(change) => put(chosen, change)} />
          <Num label="At" unit="%" min={0} max={100} value={stop.at * 100} onCommit={(p) => put(chosen, { at: p / 100 })} />
          <IconButton
            label="Remove the stop"
            unusable={stops.length <= 1 ? 'A gradient has one colour at least.' : null}
            onClick={() => {
              onChange({ ...fill, stops: stops.filter((_, i) => i !== chosen) });
              setChosen(0);
            }}
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      )}
      <Numbers>
        {fill.kind === 'linear' && (
          <Num label="Angle" unit="°" min={-360} max={360} value={fill.angle} onCommit={(angle) => onChange({ ...fill, angle })} />
        )}
        <Num label="Length" unit="%" min={1} max={400} value={fill.length * 100} onCommit={(p) => onChange({ ...fill, length: p / 100 })} />
        <Choice
          label="After the end"
          value={fill.spread}
          all={SPREADS.map((s) => [s, s] as const)}
          onChange={(spread) => onChange({ ...fill, spread })}
        />
      </Numbers>
    </>
  );
}

export function FillFields({ fill, onChange }: { fill: Fill; onChange: (fill: Fill) => void }) {
  const addImage = useAddImage();
  return (
    <>
      <Choice
        label="Kind of fill"
        value={fill.kind}
        all={[
          ['none', 'none'],
          ['colour', 'colour'],
          ['linear', 'gradient along a line'],
          ['radial', 'gradient from the middle'],
          ['picture', 'picture'],
        ]}
        onChange={(kind) => onChange('stops' in fill && (kind === 'linear' || kind === 'radial') ? { ...fill, kind } : FIRST_FILL[kind])}
      />
      {fill.kind === 'colour' && (
        <ColourField label="Colour" colour={fill.colour} opacity={fill.opacity} onChange={(change) => onChange({ ...fill, ...change })} />
      )}
      {(fill.kind === 'linear' || fill.kind === 'radial') && <GradientBar fill={fill} onChange={onChange} />}
      {fill.kind === 'picture' && (
        <>
          <FileButton
            label="Image that fills it"
            accept="image/*"
            onFile={(file) => void addImage(file).then((assetId) => assetId && onChange({ ...fill, assetId }))}
          >
            {fill.assetId === null ? 'Choose an image…' : 'Another image…'}
          </FileButton>
          <Numbers>
            <Choice
              label="Fit"
              value={fill.fit}
              all={IMAGE_FITS.map((f) => [f, f] as const)}
              onChange={(fit) => onChange({ ...fill, fit })}
            />
            <Num
              label="Opacity of the image"
              unit="%"
              min={0}
              max={100}
              value={fill.opacity * 100}
              onCommit={(p) => onChange({ ...fill, opacity: p / 100 })}
            />
          </Numbers>
        </>
      )}
    </>
  );
}

function Finishes({ graphic, elements }: { graphic: Graphic; elements: readonly Element[] }) {
  const send = useSend();
  const finishes = useShow(({ desk }) => desk.show.graphics.finishes);
  const [name, setName] = useState('');
  const first = elements[0] as Element;
  return (
    <Part title="Finishes">
      <ul className="flex flex-wrap gap-1">
        {finishes.map((f) => (
          <li key={f.id} className="flex">
            <Button
              title={`Apply ${f.name}`}
              onClick={() => send('finish.apply', { graphic: graphic.id, elements: elements.map((e) => e.id), finish: f.id })}
            >
              {f.name}
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="flex gap-1"
        onSubmit={(e) => {
          e.preventDefault();
          if (name !== '' && send('finish.save', { graphic: graphic.id, element: first.id, name })) setName('');
        }}
      >
        <input
          aria-label="Name of a new finish"
          placeholder="Keep this look as…"
          className="min-w-0 flex-1"
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" aria-label="Keep the finish">
          <Plus size={14} /> Keep
        </Button>
      </form>
    </Part>
  );
}

export function LookPanel({ graphic, elements, set }: { graphic: Graphic; elements: readonly Element[]; set: (change: object) => void }) {
  const first = elements[0] as Element;
  const { fill, stroke, shadow, glow, reflection } = first;
  return (
    <>
      <Part title="Fill">
        <FillFields fill={fill} onChange={(next) => set({ fill: next })} />
      </Part>
      <Part title="Stroke">
        <Numbers>
          <Num label="Stroke: width" min={0} max={400} value={stroke.width} onCommit={(width) => set({ stroke: { ...stroke, width } })} />
          <Choice
            label="Runs"
            value={stroke.place}
            all={STROKE_PLACES.map((p) => [p, p] as const)}
            onChange={(place) => set({ stroke: { ...stroke, place } })}
          />
          <Choice
            label="Dash"
            value={stroke.dash}
            all={DASHES.map((d) => [d, d] as const)}
            onChange={(dash) => set({ stroke: { ...stroke, dash } })}
          />
        </Numbers>
        <ColourField
          label="Stroke colour"
          colour={stroke.colour}
          opacity={stroke.opacity}
          onChange={(change) => set({ stroke: { ...stroke, ...change } })}
        />
      </Part>
      <Part
        title="Shadow"
        action={
          <Check
            label="shadow"
            on={shadow !== null}
            onChange={(on) => set({ shadow: on ? { x: 4, y: 6, blur: 14, spread: 0, colour: '#000000', opacity: 0.6 } : null })}
          />
        }
      >
        {shadow && (
          <>
            <Numbers>
              <Num label="Shadow: right" min={-2000} max={2000} value={shadow.x} onCommit={(x) => set({ shadow: { ...shadow, x } })} />
              <Num label="Shadow: down" min={-2000} max={2000} value={shadow.y} onCommit={(y) => set({ shadow: { ...shadow, y } })} />
              <Num label="Shadow: blur" min={0} max={400} value={shadow.blur} onCommit={(blur) => set({ shadow: { ...shadow, blur } })} />
              <Num
                label="Shadow: spread"
                min={0}
                max={200}
                value={shadow.spread}
                onCommit={(spread) => set({ shadow: { ...shadow, spread } })}
              />
            </Numbers>
            <ColourField
              label="Shadow colour"
              colour={shadow.colour}
              opacity={shadow.opacity}
              onChange={(change) => set({ shadow: { ...shadow, ...change } })}
            />
          </>
        )}
      </Part>
      <Part
        title="Glow"
        action={
          <Check
            label="glow"
            on={glow !== null}
            onChange={(on) => set({ glow: on ? { blur: 16, colour: '#ffd98a', opacity: 0.7 } : null })}
          />
        }
      >
        {glow && (
          <>
            <Num label="Glow: reach" min={0} max={400} value={glow.blur} onCommit={(blur) => set({ glow: { ...glow, blur } })} />
            <ColourField
              label="Glow colour"
              colour={glow.colour}
              opacity={glow.opacity}
              onChange={(change) => set({ glow: { ...glow, ...change } })}
            />
          </>
        )}
      </Part>
      <Part
        title="Reflection"
        action={
          <Check
            label="reflection"
            on={reflection !== null}
            onChange={(on) => set({ reflection: on ? { height: 0.5, opacity: 0.4, gap: 2 } : null })}
          />
        }
      >
        {reflection && (
          <Numbers>
            <Num
              label="Reflection: height"
              unit="%"
              min={0}
              max={100}
              value={reflection.height * 100}
              onCommit={(p) => set({ reflection: { ...reflection, height: p / 100 } })}
            />
            <Num
              label="Reflection: opacity"
              unit="%"
              min={0}
              max={100}
              value={reflection.opacity * 100}
              onCommit={(p) => set({ reflection: { ...reflection, opacity: p / 100 } })}
            />
            <Num
              label="Reflection: gap"
              min={-200}
              max={400}
              value={reflection.gap}
              onCommit={(gap) => set({ reflection: { ...reflection, gap } })}
            />
          </Numbers>
        )}
      </Part>
      <Finishes graphic={graphic} elements={elements} />
    </>
  );
}
