/** The room Settings: name, picture size and rate of the show. */
import { useState } from 'react';
import { COMMON_RATES, rateLabel } from '#core/time/rate';
import { useShow, useSend } from '../client/show-client';
import { RasterField } from '../shows/raster-field';
import { NumberField } from '../parts/number-field';

/** Settings of the show as a whole. */
export function ShowSettings() {
  const send = useSend();
  const { show, working, renderer } = useShow(({ desk, working, renderer }) => ({ show: desk.show, working, renderer }));
  const [name, setName] = useState(show.name);
  const known = COMMON_RATES.some((c) => c.label === rateLabel(show.rate));
  return (
    <main className="mx-auto flex max-w-2xl flex-col gap-5 p-6">
      <h1 className="text-xl font-semibold">Show settings</h1>
      <label className="flex flex-col gap-1">
        <span className="text-muted">Name</span>
        <input
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => name.trim() && name !== show.name && send('show.rename', { name: name.trim() })}
        />
      </label>
      <div className="flex flex-col gap-1">
        <span className="text-muted">Picture size</span>
        <RasterField value={show.raster} onChange={(raster) => send('show.setRaster', { raster: { ...raster } })} />
        {working.notice && <p className="text-caution">{working.notice}. The show keeps its own size for machines that can.</p>}
      </div>
      <p>
        <span className="text-muted">Rate: </span>
        <span className="figures">{rateLabel(show.rate)}</span> frames a second{known ? '' : ' (typed)'}.{' '}
        <span className="text-muted">The rate is set when a show is made.</span>
      </p>
      <div className="flex items-end gap-4">
        <NumberField
          className="w-36"
          showLabel
          label="Fade to black, frames"
          min={1}
          max={1500}
          value={show.blackFrames}
          onCommit={(frames) => send('picture.setBlackLength', { frames })}
        />
        <NumberField
          className="w-36"
          showLabel
          label="Limiter ceiling, dBFS"
          min={-20}
          max={0}
          whole={0}
          digits={1}
          value={show.sound.buses[0]?.ceilingDb ?? -1}
          onCommit={(ceilingDb) => send('sound.setBus', { bus: 'programme', ceilingDb })}
        />
      </div>
      <p className="text-xs text-muted">
        Pictures are mixed {renderer?.mixer ?? '…'}. Graphics: {renderer?.renderer ?? '…'}.
      </p>
    </main>
  );
}
