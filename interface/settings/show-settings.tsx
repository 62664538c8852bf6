/** Name, picture size and rate of the show. */
import { useState } from 'react';
import { COMMON_RATES, rateLabel } from '#core/time/rate';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { type Raster } from '#core/show/raster';
import { RasterField } from '../shows/raster-field';
import { NumberField } from '../parts/number-field';

/** Settings of the show as a whole. */
export function ShowSettings() {
  const send = useSend();
  const { show, working, renderer } = useShow(({ desk, working, renderer }) => ({ show: desk.show, working, renderer }));
  const [name, setName] = useState(show.name);
  const onAir = useShow(({ desk }) => desk.air.onAirId !== null);
  /** A size that waits for a hold, as the picture is on air. */
  const [wish, setWish] = useState<Raster | null>(null);
  const [scale, setScale] = useState(true);
  const change = (raster: Raster) => {
    send('show.setRaster', { raster: { ...raster }, scale });
    setWish(null);
  };
  const ask = (raster: Raster) => {
    const same = raster.width === show.raster.width && raster.height === show.raster.height;
    if (same) setWish(null);
    else if (onAir) setWish(raster);
    else change(raster);
  };
  const known = COMMON_RATES.some((c) => c.label === rateLabel(show.rate));
  return (
    <div className="mx-auto flex max-w-2xl flex-col gap-5 p-6">
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
        <RasterField value={wish ?? show.raster} onChange={ask} />
        {wish && (
          <div
            className="flex flex-wrap items-center gap-2 border-l-4 border-caution bg-raised px-3 py-2"
            role="group"
            aria-label="Change the picture size"
          >
            <span className="flex-1">
              From {show.raster.width}×{show.raster.height} to {wish.width}×{wish.height}, seen on air at once.
            </span>
            <label className="flex items-center gap-1.5">
              <input type="checkbox" checked={scale} onChange={(e) => setScale(e.target.checked)} /> boxes and lanes keep their share
            </label>
            <HoldButton look="air" title="Hold to change the picture on air" onHeld={() => change(wish)}>
              Hold to change
            </HoldButton>
            <Button onClick={() => setWish(null)}>Leave it</Button>
          </div>
        )}
        {!wish && <p className="text-[13px] text-muted">Boxes, styles and lanes keep their share of the picture.</p>}
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
    </div>
  );
}
