/** The values of the chosen boxes, with where each comes from. */
import { Lock, LockOpen, RotateCcw } from 'lucide-react';
import { type ReactNode, useMemo } from 'react';
import { effectiveBox, sourceOfProperty } from '#core/layout/styles';
import { type Rect } from '#core/show/geometry';
import { type Box, type BoxChange, type Fit, FITS, type Layout, type StyleProperty } from '#core/layout/document';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { KeyFields } from './key-fields';
import { ContentSelect } from '../parts/picture-select';

const FIT_NAMES: Record<Fit, string> = {
  cover: 'fills the box',
  contain: 'whole, with margins',
  fill: 'pulled to the box',
  eye: 'by the eyes',
};

/** A row of fields that a style may govern: says from which style its values come, or that they were set by hand. */
function Governed({
  layout,
  boxes,
  properties,
  label,
  children,
}: {
  layout: Layout;
  boxes: readonly Box[];
  properties: StyleProperty[];
  label: string;
  children: ReactNode;
}) {
  const send = useSend();
  const from = useShow(({ desk: { show } }) => {
    const first = boxes[0];
    return first ? (properties.map((p) => sourceOfProperty(show, first, p)).find((name) => name !== null) ?? null) : null;
  });
  const own = boxes.some((b) => properties.some((p) => b.own.includes(p)));
  return (
    <div className="border-t border-line px-2 py-1.5">
      <div className="flex min-h-6 items-center gap-1.5">
        <h3 className="text-xs font-semibold text-muted">{label}</h3>
        {from !== null && (
          <span className="ml-auto bg-raised px-1 text-xs text-next" title="These values follow the style">
            {from}
          </span>
        )}
        {own && (
          <button
            type="button"
            className={`${from === null ? 'ml-auto' : ''} flex items-center gap-1 bg-raised px-1 text-xs text-caution`}
            title="Set by hand on this box. Press to hand back to the style."
            onClick={() => send('style.return', { layout: layout.id, boxes: boxes.map((b) => b.id), properties })}
          >
            by hand <RotateCcw size={12} />
          </button>
        )}
      </div>
      <div className="flex flex-wrap items-end gap-1.5">{children}</div>
    </div>
  );
}

/** Everything about the chosen boxes. A change goes to all of them. */
export function BoxFields({
  layout,
  boxes,
  locked,
  onLock,
}: {
  layout: Layout;
  boxes: readonly Box[];
  locked: boolean;
  onLock: (on: boolean) => void;
}) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const { raster } = show;
  const firstSource = show.sources[0]?.id ?? null;
  const stored = boxes[0];
  const first = useMemo(() => (stored ? effectiveBox(show, stored) : null), [show, stored]);
  if (!first)
    return <p className="p-3 text-muted">Choose a box in the picture: press it, Shift adds another. Arrows nudge, Delete removes.</p>;
  const ids = boxes.map((b) => b.id);
  const set = (change: BoxChange) => send('box.set', { layout: layout.id, boxes: ids, ...change });
  const place = (change: Partial<Rect>) => {
    const rect = { ...first.rect, ...change };
    if (locked && change.width !== undefined) rect.height = Math.round((first.rect.height * change.width) / first.rect.width);
    if (locked && change.height !== undefined) rect.width = Math.round((first.rect.width * change.height) / first.rect.height);
    if (boxes.length === 1) send('box.place', { layout: layout.id, box: ids[0], rect });
    else set({ rect });
  };
  const side = (label: string, key: keyof Rect, whole: number) => (
    <NumberField
      className="w-15"
      role={key === 'x' ? 'box-place' : undefined}
      showLabel
      label={label}
      min={key === 'x' || key === 'y' ? -20_000 : 1}
      max={20_000}
      digits={1}
      whole={whole}
      value={first.rect[key]}
      onCommit={(v) => place({ [key]: v })}
    />
  );
  const share = (label: string, value: number, onCommit: (share: number) => void, min = 0, max = 100) => (
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
  const number = (label: string, value: number, onCommit: (value: number) => void, min: number, max: number, unit?: string) => (
    <NumberField
      className="w-17"
      showLabel
      label={label}
      min={min}
      max={max}
      digits={1}
      value={value}
      onCommit={onCommit}
      {...(unit ? { unit } : {})}
    />
  );
  const { crop, border, shadow } = first;
  return (
    <div>
      <div className="flex flex-col gap-1.5 p-2">
        {boxes.length > 1 ? (
          <p className="bg-raised px-2 py-1 font-semibold text-straw">{boxes.length} boxes: a change goes to all of them</p>
        ) : (
          <input
            key={first.id + first.name}
            aria-label="Name of the box"
            className="font-semibold"
            defaultValue={first.name}
            maxLength={60}
            onBlur={(e) => e.target.value.trim() && e.target.value !== first.name && set({ name: e.target.value.trim() })}
            onKeyDown={(e) => {
              if (e.key === 'Escape') e.currentTarget.value = first.name;
              if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
            }}
          />
        )}
        <ContentSelect
          role="box-content"
          label="What the box shows"
          none="nothing"
          layoutId={layout.id}
          content={first.content}
          onChange={(content) => set({ content })}
        />
      </div>
      <Governed layout={layout} boxes={boxes} properties={['position', 'size']} label="Place, pixels (or %)">
        {side('Left', 'x', raster.width)}
        {side('Top', 'y', raster.height)}
        {side('Width', 'width', raster.width)}
        {side('Height', 'height', raster.height)}
        <Button
          pressed={locked}
          className="px-1.5!"
          aria-label="Lock of proportions"
          title={locked ? 'Proportions are kept: width and height change together' : 'Proportions are free'}
          onClick={() => onLock(!locked)}
        >
          {locked ? <Lock size={15} /> : <LockOpen size={15} />}
        </Button>
      </Governed>
      <Governed layout={layout} boxes={boxes} properties={['fit', 'view']} label="The picture in the box">
        <select aria-label="How the picture meets the box" value={first.fit} onChange={(e) => set({ fit: e.target.value as Fit })}>
          {FITS.map((fit) => (
            <option key={fit} value={fit}>
              {FIT_NAMES[fit]}
            </option>
          ))}
        </select>
        {number('Zoom', first.zoom, (zoom) => set({ zoom }), 1, 20, '×')}
        {first.fit !== 'eye' && share('Pan →', first.panX, (panX) => set({ panX }), -100)}
        {first.fit !== 'eye' && share('Pan ↓', first.panY, (panY) => set({ panY }), -100)}
      </Governed>
      <Governed layout={layout} boxes={boxes} properties={['crop']} label="Crop, share of the picture">
        {share('Left', crop.left, (left) => set({ crop: { ...crop, left } }), 0, 99)}
        {share('Top', crop.top, (top) => set({ crop: { ...crop, top } }), 0, 99)}
        {share('Right', crop.right, (right) => set({ crop: { ...crop, right } }), 0, 99)}
        {share('Bottom', crop.bottom, (bottom) => set({ crop: { ...crop, bottom } }), 0, 99)}
      </Governed>
      <Governed layout={layout} boxes={boxes} properties={['rotation', 'radius', 'opacity']} label="Shape">
        {number('Rotation', first.rotation, (rotation) => set({ rotation }), -360, 360, '°')}
        {number('Corners', first.radius, (radius) => set({ radius }), 0, 4000)}
        {share('Opacity', first.opacity, (opacity) => set({ opacity }))}
      </Governed>
      <Governed layout={layout} boxes={boxes} properties={['border']} label="Border">
        {number('Width', border.width, (width) => set({ border: { ...border, width } }), 0, 400)}
        <input
          type="color"
          aria-label="Colour of the border"
          className="h-8 w-10 p-0.5!"
          value={border.colour}
          onChange={(e) => set({ border: { ...border, colour: e.target.value } })}
        />
      </Governed>
      <Governed layout={layout} boxes={boxes} properties={['shadow']} label="Shadow">
        {number('Right', shadow.x, (x) => set({ shadow: { ...shadow, x } }), -400, 400)}
        {number('Down', shadow.y, (y) => set({ shadow: { ...shadow, y } }), -400, 400)}
        {number('Blur', shadow.blur, (blur) => set({ shadow: { ...shadow, blur } }), 0, 400)}
        {share('Opacity', shadow.opacity, (opacity) => set({ shadow: { ...shadow, opacity } }))}
      </Governed>
      <Governed layout={layout} boxes={boxes} properties={['key']} label="Key">
        <div className="w-full">
          <KeyFields value={first.key} firstSource={firstSource} onChange={(key) => set({ key })} />
        </div>
      </Governed>
    </div>
  );
}
