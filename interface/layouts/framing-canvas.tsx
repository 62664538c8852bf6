/** A framing on its source: cropped, panned and marked with the mouse. */
import { type KonvaEventObject } from 'konva/lib/Node';
import { useRef } from 'react';
import { Circle, Group, Layer, Line, Rect as KonvaRect } from 'react-konva';
import { cropDrag, type Handle } from '#core/layout/handles';
import { framingWindow } from '#core/picture/view';
import { type Point } from '#core/show/geometry';
import { type Framing } from '#core/layout/document';
import { useSend } from '../client/show-client';
import { FittedStage, GUIDE, pointOn, SquareHandles, STRAW, useFitted } from '../parts/canvas';
import { Monitor } from '../parts/monitor';

/** Pixels of the screen around the picture, for handles. */
const MARGIN = 14;

interface FramingCanvasProps {
  framing: Framing;
  size: { width: number; height: number };
  eye: Point | null;
  picking: boolean;
  onPicked: (colour: string) => void;
}

/** Mean colour of a small square of the shown picture; null while there is none. */
function colourAt(canvas: HTMLCanvasElement, share: Point): string | null {
  const side = 5;
  const small = document.createElement('canvas');
  small.width = side;
  small.height = side;
  const context = small.getContext('2d', { willReadFrequently: true });
  if (!context || canvas.width < side) return null;
  context.drawImage(canvas, share.x * canvas.width - side / 2, share.y * canvas.height - side / 2, side, side, 0, 0, side, side);
  const { data } = context.getImageData(0, 0, side, side);
  const mean = [0, 1, 2].map((c) => {
    let sum = 0;
    for (let i = c; i < data.length; i += 4) sum += data[i] as number;
    return Math.round(sum / (side * side));
  });
  return `#${mean.map((v) => v.toString(16).padStart(2, '0')).join('')}`;
}

/** The source with what the framing takes of it: the crop can be dragged, the eyes marked, a colour picked. */
export function FramingCanvas({ framing, size, eye, picking, onPicked }: FramingCanvasProps) {
  const send = useSend();
  const { room, size: shown } = useFitted(size, MARGIN);
  const picture = useRef<HTMLDivElement>(null);
  const drag = useRef<{ handle: Handle; from: Point; crop: Framing['crop'] } | null>(null);
  const { width, height } = shown;
  const c = framing.crop;
  const rect = { x: c.left * width, y: c.top * height, width: (1 - c.left - c.right) * width, height: (1 - c.top - c.bottom) * height };
  const { window } = framingWindow(framing, size);
  const at = (event: KonvaEventObject<MouseEvent>): Point => pointOn(event, MARGIN, 1);
  const press = (event: KonvaEventObject<MouseEvent>) => {
    if (!picking) return;
    const p = at(event);
    const canvas = picture.current?.querySelector('canvas');
    const colour = canvas && colourAt(canvas, { x: p.x / width, y: p.y / height });
    if (colour) onPicked(colour);
  };
  const move = (event: KonvaEventObject<MouseEvent>) => {
    const d = drag.current;
    if (!d) return;
    const p = at(event);
    send('framing.set', { framing: framing.id, crop: cropDrag(d.crop, d.handle, p.x - d.from.x, p.y - d.from.y, shown) });
  };
  const release = () => {
    drag.current = null;
  };
  const mark = eye ?? { x: 0.5, y: 0.4 };
  return (
    <div ref={room} className="grid min-h-0 flex-1 place-items-center overflow-hidden bg-deep max-beside:min-h-[62vw]">
      <div ref={picture} className={`relative ${picking ? 'cursor-crosshair' : ''}`} style={{ width, height }}>
        <Monitor picture={{ kind: 'picture', id: framing.sourceId }} label="The whole source" className="absolute inset-0" />
        <FittedStage size={shown} margin={MARGIN} onPress={press} onMove={move} onRelease={release}>
          <Layer listening={!picking}>
            <KonvaRect {...rect} stroke={STRAW} strokeWidth={2} listening={false} />
            {framing.zoom > 1 && (
              <KonvaRect
                x={window.x * width}
                y={window.y * height}
                width={window.width * width}
                height={window.height * height}
                stroke={STRAW}
                dash={[5, 4]}
                strokeWidth={1.5}
                listening={false}
              />
            )}
            <SquareHandles rect={rect} onPress={(handle, event) => (drag.current = { handle, from: at(event), crop: c })} />
            <Group
              x={mark.x * width}
              y={mark.y * height}
              draggable
              opacity={eye ? 1 : 0.55}
              onDragMove={(event) => {
                const p = event.target.position();
                const share = (v: number, whole: number) => Math.min(1, Math.max(0, v / whole));
                send('source.setEyes', { picture: framing.id, x: share(p.x, width), y: share(p.y, height) });
              }}
            >
              <Circle radius={13} stroke={GUIDE} strokeWidth={2.5} fill="rgba(13,21,23,0.25)" />
              <Line points={[-18, 0, 18, 0]} stroke={GUIDE} strokeWidth={2} />
              <Line points={[0, -8, 0, 8]} stroke={GUIDE} strokeWidth={2} />
            </Group>
          </Layer>
        </FittedStage>
      </div>
    </div>
  );
}
