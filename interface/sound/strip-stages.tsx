/** What the settings of channels and buses are made of: stages, fields, delay, equaliser. */
import { type ReactNode } from 'react';
import { BAND_KINDS, type EqBand, type HighPass } from '#core/sound/strip';
import { framesPerSecond } from '#core/time/rate';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { EqCurve } from './eq-curve';

const KIND_WORDS = { 'low-shelf': 'low shelf', bell: 'bell', 'high-shelf': 'high shelf' };

interface FieldProps {
  label: string;
  value: number;
  min: number;
  max: number;
  digits?: number;
  unit: string;
  onCommit: (value: number) => void;
}

/** A number with its name before it and its unit behind. */
export function Field({ label, ...field }: FieldProps) {
  return (
    <div className="flex items-center justify-between gap-1">
      <span className="text-[13px] whitespace-nowrap text-muted">{label}</span>
      <NumberField label={label} className="w-26" whole={0} {...field} />
    </div>
  );
}

/** One stage of a strip, in and out by a press where it can be. */
export function Stage({
  title,
  on,
  onPress,
  help,
  children,
}: {
  title: string;
  on?: boolean;
  onPress?: () => void;
  help?: string;
  children: ReactNode;
}) {
  return (
    <section className="border-t border-line py-2">
      <div className="mb-1 flex items-center gap-2">
        <h3 className="font-semibold">{title}</h3>
        {help && <span className="truncate text-[13px] text-muted">{help}</span>}
        {onPress && (
          <Button className="ml-auto" pressed={on ?? false} aria-label={`${title} in use`} onClick={onPress}>
            {on ? 'In' : 'Out'}
          </Button>
        )}
      </div>
      <div className="grid grid-cols-2 gap-x-4 gap-y-1">{children}</div>
    </section>
  );
}

/** The bands of an equaliser by numbers. */
function Bands({ id, bands }: { id: string; bands: readonly EqBand[] }) {
  const send = useSend();
  return (
    <div className="col-span-2 grid grid-cols-[auto_1fr_1fr_1fr] gap-1">
      {bands.map((band, i) => (
        <div key={i} className="contents">
          <select
            aria-label={`Shape of band ${i + 1}`}
            className="text-[13px]"
            value={band.kind}
            onChange={(e) => send('sound.setBand', { channel: id, band: i + 1, kind: e.target.value })}
          >
            {BAND_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {i + 1} {KIND_WORDS[kind]}
              </option>
            ))}
          </select>
          <NumberField
            label={`Frequency of band ${i + 1}, Hz`}
            unit="Hz"
            min={20}
            max={20_000}
            value={band.hz}
            onCommit={(hz) => send('sound.setBand', { channel: id, band: i + 1, hz })}
          />
          <NumberField
            label={`Gain of band ${i + 1}, dB`}
            unit="dB"
            min={-18}
            max={18}
            whole={0}
            digits={1}
            value={band.gainDb}
            onCommit={(gainDb) => send('sound.setBand', { channel: id, band: i + 1, gainDb })}
          />
          <NumberField
            label={`Quality of band ${i + 1}`}
            unit="Q"
            min={0.2}
            max={12}
            digits={2}
            value={band.q}
            onCommit={(q) => send('sound.setBand', { channel: id, band: i + 1, q })}
          />
        </div>
      ))}
    </div>
  );
}

/** A delay in milliseconds, and the same in frames of the show. */
export function DelayFields({ delayMs, onCommit }: { delayMs: number; onCommit: (delayMs: number) => void }) {
  const rate = useShow(({ desk }) => framesPerSecond(desk.show.rate));
  return (
    <>
      <Field label="Delay" unit="ms" min={0} max={1000} digits={1} value={delayMs} onCommit={onCommit} />
      <Field
        label="= frames"
        unit="fr"
        min={0}
        max={rate}
        digits={2}
        value={(delayMs / 1000) * rate}
        onCommit={(frames) => onCommit(Math.min(1000, Math.round((frames / rate) * 10_000) / 10))}
      />
    </>
  );
}

/** The equaliser of a channel or a bus, as a curve and by numbers. */
export function Equaliser({ id, eq, highPass }: { id: string; eq: { on: boolean; bands: readonly EqBand[] }; highPass?: HighPass }) {
  const send = useSend();
  return (
    <Stage title="Equaliser" on={eq.on} onPress={() => send('sound.setEq', { channel: id })}>
      <div className="col-span-2">
        <EqCurve
          bands={eq.bands}
          on={eq.on}
          {...(highPass && { highPass })}
          onBand={(band, change) => send('sound.setBand', { channel: id, band, ...change })}
        />
      </div>
      <Bands id={id} bands={eq.bands} />
    </Stage>
  );
}
