/** Choice of a picture size and rate. */
import { type Raster } from '#core/show/raster';
import { NumberField } from '../parts/number-field';

const SIZES: readonly Raster[] = [
  { width: 1920, height: 1080 },
  { width: 1280, height: 720 },
  { width: 3840, height: 2160 },
  { width: 640, height: 360 },
];

const even = (n: number) => Math.max(16, 2 * Math.round(n / 2));

/** A raster: one of the usual ones, or typed. Odd numbers go to the next even one, and the field shows it. */
export function RasterField({ value, onChange }: { value: Raster; onChange: (raster: Raster) => void }) {
  const key = `${value.width}×${value.height}`;
  const usual = SIZES.some((s) => `${s.width}×${s.height}` === key);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <select
        aria-label="Picture size"
        className="max-w-[6.6rem]"
        value={usual ? key : ''}
        onChange={(e) => {
          const size = SIZES.find((s) => `${s.width}×${s.height}` === e.target.value);
          if (size) onChange(size);
        }}
      >
        {!usual && <option value="">typed</option>}
        {SIZES.map((s) => (
          <option key={`${s.width}×${s.height}`}>{`${s.width}×${s.height}`}</option>
        ))}
      </select>
      <NumberField
        className="w-[4.6rem]"
        label="Width, pixels"
        min={16}
        max={7680}
        value={value.width}
        onCommit={(width) => onChange({ ...value, width: even(width) })}
      />
      <span className="text-muted">×</span>
      <NumberField
        className="w-[4.6rem]"
        label="Height, pixels"
        min={16}
        max={4320}
        value={value.height}
        onCommit={(height) => onChange({ ...value, height: even(height) })}
      />
    </div>
  );
}
