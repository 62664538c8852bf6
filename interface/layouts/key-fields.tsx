/** The settings of a key. */
import { Pipette } from 'lucide-react';
import { GREEN_KEY, type Key } from '#core/layout/look';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { PictureSelect } from '../parts/picture-select';

const percent = (share: number) => Math.round(share * 1000) / 10;

/** A key: by colour, by brightness, or by a second picture. `onPick` lets the colour be picked from a picture. */
export function KeyFields({
  value,
  onChange,
  firstSource,
  onPick,
}: {
  value: Key | null;
  onChange: (key: Key | null) => void;
  firstSource: string | null;
  onPick?: (() => void) | undefined;
}) {
  const start = (kind: string): Key | null => {
    if (kind === 'chroma') return { ...GREEN_KEY };
    if (kind === 'luma') return { kind: 'luma', clip: 0.1, gain: 4, invert: false };
    return kind === 'fill' && firstSource ? { kind: 'fill', keyId: firstSource, premultiplied: false, invert: false } : null;
  };
  const share = (label: string, key: string, from: number, max = 100) => (
    <NumberField
      className="w-20"
      showLabel
      label={label}
      unit="%"
      min={0}
      max={max}
      digits={1}
      value={percent(from)}
      onCommit={(v) => value && onChange({ ...value, [key]: v / 100 } as Key)}
    />
  );
  return (
    <div className="flex flex-col gap-2">
      <select aria-label="Kind of key" value={value?.kind ?? ''} onChange={(e) => onChange(start(e.target.value))}>
        <option value="">no key</option>
        <option value="chroma">by colour</option>
        <option value="luma">by brightness</option>
        <option value="fill">fill and key from two sources</option>
      </select>
      {value?.kind === 'chroma' && (
        <>
          <div className="flex items-end gap-2">
            <label className="flex flex-col gap-0.5">
              <span className="text-xs text-muted">Backing</span>
              <input
                type="color"
                aria-label="Colour of the backing"
                className="h-8 w-12 p-0.5!"
                value={value.colour}
                onChange={(e) => onChange({ ...value, colour: e.target.value })}
              />
            </label>
            {onPick && (
              <Button onClick={onPick} title="Then press the backing in the picture">
                <Pipette size={15} /> Pick
              </Button>
            )}
          </div>
          <div className="flex flex-wrap gap-2">
            {share('Similarity', 'similarity', value.similarity)}
            {share('Softness', 'softness', value.softness)}
            {share('Spill off', 'spill', value.spill)}
          </div>
          <span className="text-xs text-muted">Garbage crop</span>
          <div className="flex flex-wrap gap-2">
            {share('Left', 'garbageLeft', value.garbageLeft, 99)}
            {share('Top', 'garbageTop', value.garbageTop, 99)}
            {share('Right', 'garbageRight', value.garbageRight, 99)}
            {share('Bottom', 'garbageBottom', value.garbageBottom, 99)}
          </div>
        </>
      )}
      {value?.kind === 'luma' && (
        <div className="flex flex-wrap items-end gap-2">
          {share('Clip', 'clip', value.clip)}
          <NumberField
            className="w-20"
            showLabel
            label="Gain"
            min={0.1}
            max={50}
            digits={2}
            value={value.gain}
            onCommit={(gain) => onChange({ ...value, gain })}
          />
          <label className="flex items-center gap-1.5 pb-1">
            <input type="checkbox" checked={value.invert} onChange={(e) => onChange({ ...value, invert: e.target.checked })} /> bright
            places out
          </label>
        </div>
      )}
      {value?.kind === 'fill' && (
        <div className="flex flex-col gap-1.5">
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Key picture</span>
            <PictureSelect
              label="Key picture"
              kinds={['source']}
              value={value.keyId}
              onChange={(id) => onChange(id ? { ...value, keyId: id } : null)}
            />
          </label>
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={value.premultiplied}
              onChange={(e) => onChange({ ...value, premultiplied: e.target.checked })}
            />{' '}
            the fill is multiplied by the key already
          </label>
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={value.invert} onChange={(e) => onChange({ ...value, invert: e.target.checked })} /> bright
            places of the key out
          </label>
        </div>
      )}
    </div>
  );
}
