/** An equaliser as a curve. */
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { bandCoefficients, highPassCoefficients, responseDb } from '#core/sound/dsp/biquad';
import { type EqBand, type HighPass } from '#core/sound/strip';

const WIDTH = 360;
const HEIGHT = 150;
const RANGE_DB = 18;
const RATE = 48_000;
const [LOW, HIGH] = [20, 20_000];
const LINES = [50, 100, 200, 500, 1000, 2000, 5000, 10_000];

const xOf = (hz: number) => (Math.log(hz / LOW) / Math.log(HIGH / LOW)) * WIDTH;
const hzAt = (x: number) => LOW * (HIGH / LOW) ** (Math.min(WIDTH, Math.max(0, x)) / WIDTH);
const yOf = (db: number) => HEIGHT / 2 - (db / RANGE_DB) * (HEIGHT / 2);
const dbAt = (y: number) => Math.min(RANGE_DB, Math.max(-RANGE_DB, ((HEIGHT / 2 - y) / (HEIGHT / 2)) * RANGE_DB));

interface EqCurveProps {
  bands: readonly EqBand[];
  on: boolean;
  highPass?: HighPass;
  onBand: (band: number, change: Partial<EqBand>) => void;
}

/** The response as it is heard, with a handle for each band: drag for frequency and gain, wheel for quality. */
export function EqCurve({ bands, on, highPass, onBand }: EqCurveProps) {
  const svg = useRef<SVGSVGElement>(null);
  const grip = useRef<number | null>(null);
  const filters = [
    ...(on ? bands.map((b) => bandCoefficients(b.kind, b.hz, b.gainDb, b.q, RATE)) : []),
    ...(highPass?.on ? [highPassCoefficients(highPass.hz, RATE)] : []),
  ];
  const points = Array.from({ length: 121 }, (_, i) => {
    const hz = hzAt((i / 120) * WIDTH);
    const db = filters.reduce((sum, f) => sum + responseDb(f, Math.min(hz, 22_000), RATE), 0);
    return `${((i / 120) * WIDTH).toFixed(1)},${yOf(Math.max(-RANGE_DB - 6, Math.min(RANGE_DB + 2, db))).toFixed(1)}`;
  });
  const move = (e: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (grip.current === null || !box) return;
    const x = ((e.clientX - box.left) / box.width) * WIDTH;
    const y = ((e.clientY - box.top) / box.height) * HEIGHT;
    onBand(grip.current, { hz: Math.round(hzAt(x)), gainDb: Math.round(dbAt(y) * 2) / 2 });
  };
  const key = (e: KeyboardEvent, band: EqBand, n: number) => {
    const change: Partial<EqBand> | undefined = {
      ArrowUp: { gainDb: Math.min(RANGE_DB, band.gainDb + 0.5) },
      ArrowDown: { gainDb: Math.max(-RANGE_DB, band.gainDb - 0.5) },
      ArrowRight: { hz: Math.min(HIGH, Math.round(band.hz * 1.06)) },
      ArrowLeft: { hz: Math.max(LOW, Math.round(band.hz / 1.06)) },
    }[e.key];
    if (!change) return;
    e.preventDefault();
    e.stopPropagation();
    onBand(n, change);
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full touch-none border border-line bg-deep"
      role="group"
      aria-label="Response of the equaliser"
      onPointerMove={move}
      onPointerUp={() => (grip.current = null)}
      onPointerCancel={() => (grip.current = null)}
    >
      {LINES.map((hz) => (
        <g key={hz}>
          <line x1={xOf(hz)} x2={xOf(hz)} y1={0} y2={HEIGHT} stroke="var(--color-line)" />
          {[100, 1000, 10_000].includes(hz) && (
            <text x={xOf(hz) + 2} y={HEIGHT - 3} fontSize={11} fill="var(--color-muted)">
              {hz >= 1000 ? `${hz / 1000} k` : hz}
            </text>
          )}
        </g>
      ))}
      {[-12, 0, 12].map((db) => (
        <g key={db}>
          <line x1={0} x2={WIDTH} y1={yOf(db)} y2={yOf(db)} stroke={db === 0 ? 'var(--color-muted)' : 'var(--color-line)'} />
          <text x={2} y={yOf(db) - 2} fontSize={11} fill="var(--color-muted)">
            {db > 0 ? `+${db}` : String(db).replace('-', '−')}
          </text>
        </g>
      ))}
      <polyline
        points={points.join(' ')}
        fill="none"
        stroke={filters.length > 0 ? 'var(--color-straw)' : 'var(--color-muted)'}
        strokeWidth={2}
      />
      {bands.map((band, i) => (
        <g
          key={i}
          role="slider"
          tabIndex={0}
          aria-label={`Band ${i + 1}: ${Math.round(band.hz)} Hz`}
          aria-valuemin={-RANGE_DB}
          aria-valuemax={RANGE_DB}
          aria-valuenow={band.gainDb}
          className="cursor-move outline-offset-4"
          opacity={on ? 1 : 0.5}
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            grip.current = i + 1;
          }}
          onDoubleClick={() => onBand(i + 1, { gainDb: 0 })}
          onWheel={(e) =>
            onBand(i + 1, { q: Math.min(12, Math.max(0.2, Math.round(band.q * (e.deltaY < 0 ? 1.15 : 1 / 1.15) * 100) / 100)) })
          }
          onKeyDown={(e) => key(e, band, i + 1)}
        >
          <circle cx={xOf(band.hz)} cy={yOf(band.gainDb)} r={16} fill="transparent" />
          <circle cx={xOf(band.hz)} cy={yOf(band.gainDb)} r={8} fill="var(--color-raised)" stroke="var(--color-straw)" strokeWidth={1.5} />
          <text x={xOf(band.hz)} y={yOf(band.gainDb) + 4} fontSize={11} textAnchor="middle" fill="var(--color-text)">
            {i + 1}
          </text>
        </g>
      ))}
    </svg>
  );
}
