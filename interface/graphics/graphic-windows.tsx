/** The live pictures in the windows of a drawing, each in its place: seen through where the drawing is clear. */
import { type DrawItem } from '#core/picture/draw';
import { type Raster } from '#core/show/raster';
import { useShow } from '../client/show-client';
import { Monitor } from '../parts/monitor';

export function GraphicWindows({ items, raster, scale }: { items: readonly DrawItem[]; raster: Raster; scale: number }) {
  const show = useShow(({ desk }) => desk.show.raster);
  return (
    <div className="absolute inset-0 overflow-hidden" style={{ width: raster.width * scale, height: raster.height * scale }}>
      {items.map(({ target, sourceId, fit, rotation = 0, radius = 0 }, i) => {
        if (sourceId === undefined || target.width < 1 || target.height < 1) return null;
        const by = (fit === 'cover' ? Math.max : Math.min)(target.width / show.width, target.height / show.height) * scale;
        const [width, height] = [show.width * by, show.height * by];
        return (
          <div
            key={`${sourceId} ${i}`}
            className="absolute overflow-hidden bg-black"
            style={{
              left: target.x * scale,
              top: target.y * scale,
              width: target.width * scale,
              height: target.height * scale,
              borderRadius: radius * scale,
              transform: `rotate(${rotation}deg)`,
            }}
          >
            <div
              className="absolute"
              style={{ width, height, left: (target.width * scale - width) / 2, top: (target.height * scale - height) / 2 }}
            >
              <Monitor picture={{ kind: 'picture', id: sourceId }} label="Live picture in the drawing" className="h-full w-full" />
            </div>
          </div>
        );
      })}
    </div>
  );
}
