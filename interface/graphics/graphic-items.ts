/** Items of a filled graphic for the screen, with the sizes of words in boxes that grow, measured by the page. */
import { useEffect, useMemo, useState } from 'react';
import { type Filled, type GraphicsAir } from '#core/graphics/air';
import { type Sizes } from '#core/graphics/grow';
import { measuredIn } from '#core/graphics/measured';
import { graphicItems } from '#core/graphics/items';
import { type Phase } from '#core/graphics/motion';
import { withValues } from '#core/graphics/values';
import { type DrawItem } from '#core/picture/draw';
import { sizesOfTexts } from '#engine/graphics/pictures';
import { useShow } from '../client/show-client';

/** Sizes that were measured; forgotten all at once when they are too many. */
let known: Sizes = {};
const MOST = 4000;

/** The sizes of what grows in a filled graphic, as far as they are known. */
function useSizes({ graphic, values }: Filled): Sizes {
  const [sizes, setSizes] = useState(known);
  const growing = useMemo(() => measuredIn(withValues(graphic, values)), [graphic, values]);
  const unknown = growing.filter(({ key }) => !sizes[key]);
  const key = unknown.map((g) => g.key).join();
  useEffect(() => {
    if (key === '') return undefined;
    let gone = false;
    void sizesOfTexts(unknown).then((found) => {
      known = Object.keys(known).length > MOST ? found : { ...known, ...found };
      if (!gone) setSizes(known);
    });
    return () => {
      gone = true;
    };
    // What is unknown is said by its keys.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return sizes;
}

/** What the picture of a window is here: a pane in its place, which says whose. */
const pane = (pictureId: string) => ({
  texture: { kind: 'colour' as const, colour: '#1b2a2e' },
  fit: 'contain' as const,
  sourceId: pictureId,
});

/** Items of a filled graphic over its own raster; clocks stand at their beginning. */
export function useGraphicItems({ graphic, values }: Filled, phase: Phase, frame: number): DrawItem[] {
  const { clocks, rate } = useShow(({ desk: { show } }) => ({ clocks: show.graphics.clocks, rate: show.rate }));
  const sizes = useSizes({ graphic, values });
  return useMemo(() => {
    const air: GraphicsAir = { shown: {}, clocks: {}, day: { frame: 0, millis: 0 }, sizes, tickers: {} };
    return graphicItems({
      filled: { graphic, values },
      phase,
      frame,
      target: { x: 0, y: 0, ...graphic.raster },
      clocks,
      air,
      rate,
      slot: 'screen',
      window: pane,
    });
  }, [graphic, values, phase, frame, clocks, rate, sizes]);
}
