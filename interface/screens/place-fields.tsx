/** Place and size of a screen or layer on the canvas, as lengths. */
import { type Rect } from '#core/show/geometry';
import { type Surface } from '#core/screens/surface';
import { Numbers } from '../parts/fields';
import { LengthField } from './length-field';
import { useScreensRoom } from './room-state';

export function PlaceFields({ rect, surface, onPlace }: { rect: Rect; surface: Surface; onPlace: (rect: Rect) => void }) {
  const proportions = useScreensRoom((s) => s.proportions);
  const { pitch, width, height } = surface;
  // Both numbers are written anew: neither changes unseen.
  const wide = (w: number) =>
    onPlace({ ...rect, width: w, ...(proportions && { height: Math.max(1, Math.round((rect.height * w) / rect.width)) }) });
  const high = (h: number) =>
    onPlace({ ...rect, height: h, ...(proportions && { width: Math.max(1, Math.round((rect.width * h) / rect.height)) }) });
  return (
    <>
      <Numbers>
        <LengthField label="X" value={Math.round(rect.x)} pitch={pitch} whole={width} onCommit={(x) => onPlace({ ...rect, x })} />
        <LengthField label="Y" value={Math.round(rect.y)} pitch={pitch} whole={height} onCommit={(y) => onPlace({ ...rect, y })} />
        <LengthField label="Width" value={Math.round(rect.width)} pitch={pitch} min={1} whole={width} onCommit={wide} />
        <LengthField label="Height" value={Math.round(rect.height)} pitch={pitch} min={1} whole={height} onCommit={high} />
      </Numbers>
      {proportions && <p className="text-[13px] text-caution">Proportions are kept: width and height change together.</p>}
    </>
  );
}
