/** What is drawn over a canvas: layers and screens with their names, gaps and overlaps. Places are pixels of the canvas; `px` is one of the page. */
import { memo, type PointerEvent } from 'react';
import { type Handle, handlePlace, HANDLES } from '#core/layout/handles';
import { type LengthUnit, lengthWords } from '#core/screens/lengths';
import { betweenScreens } from '#core/screens/between';
import { type Layer, type Screen } from '#core/screens/surface';
import { type Rect } from '#core/show/geometry';
import { DEEP, GUIDE, MUTED, STRAW } from '../parts/canvas';

function Words({
  x,
  y,
  px,
  tone = '#e8efe9',
  middle = false,
  strong = false,
  children,
}: {
  x: number;
  y: number;
  px: number;
  tone?: string;
  middle?: boolean;
  strong?: boolean;
  children: string;
}) {
  return (
    <text
      x={x}
      y={y}
      fontSize={13 * px}
      fontWeight={strong ? 700 : 400}
      fill={tone}
      stroke={DEEP}
      strokeWidth={3 * px}
      paintOrder="stroke"
      textAnchor={middle ? 'middle' : 'start'}
      dominantBaseline={middle ? 'middle' : 'auto'}
      style={{ pointerEvents: 'none', userSelect: 'none' }}
    >
      {children}
    </text>
  );
}

/** What a rectangle is pulled by, at its corners and sides. */
export function Handles({ rect, px, onGrab }: { rect: Rect; px: number; onGrab: (handle: Handle, event: PointerEvent) => void }) {
  return HANDLES.map((handle) => {
    const { x, y } = handlePlace(handle, rect);
    return (
      <rect
        key={handle}
        x={x - 5.5 * px}
        y={y - 5.5 * px}
        width={11 * px}
        height={11 * px}
        fill={STRAW}
        stroke={DEEP}
        strokeWidth={px}
        style={{ cursor: `${handle}-resize` }}
        onPointerDown={(event) => {
          event.stopPropagation();
          onGrab(handle, event);
        }}
      />
    );
  });
}

export function LayerMark({ layer, rect, chosen, px }: { layer: Layer; rect: Rect; chosen: boolean; px: number }) {
  return (
    <g>
      <rect
        {...rect}
        fill="transparent"
        stroke={chosen ? STRAW : '#e8efe9'}
        strokeOpacity={chosen ? 1 : 0.55}
        strokeWidth={(chosen ? 2.5 : 1) * px}
      />
      {rect.width > 40 * px && (
        <Words x={rect.x + 5 * px} y={rect.y + rect.height - 6 * px} px={px} tone={chosen ? STRAW : '#e8efe9'} strong={chosen}>
          {`${layer.name}${layer.locked ? ' · locked' : ''}${layer.visible ? '' : ' · hidden'}`}
        </Words>
      )}
    </g>
  );
}

/**
 * A screen with its number and name; worked on, with its pixels and its output. What reaches over the canvas is told by colour and word. Drawn
 * again only when it has changed: there may be many.
 */
export const ScreenMark = memo(function ScreenMark({
  screen,
  number,
  output,
  over,
  chosen,
  worked,
  px,
}: {
  screen: Screen;
  number: number;
  /** Name of the output that feeds it; null for none. */
  output: string | null;
  over: boolean;
  chosen: boolean;
  worked: boolean;
  px: number;
}) {
  const { rect, name, locked } = screen;
  const tone = chosen ? STRAW : over ? '#f2b84b' : worked ? '#e8efe9' : MUTED;
  return (
    <g style={worked ? undefined : { pointerEvents: 'none' }}>
      <rect
        {...rect}
        fill={chosen ? STRAW : 'transparent'}
        fillOpacity={chosen ? 0.1 : 0}
        stroke={tone}
        strokeWidth={(chosen ? 2.5 : 1.2) * px}
      />
      {rect.width > 30 * px && (
        <Words x={rect.x + 5 * px} y={rect.y + 15 * px} px={px} tone={tone} strong>
          {`${number} ${name}${locked ? ' · locked' : ''}`}
        </Words>
      )}
      {worked && rect.height > 50 * px && (
        <Words
          x={rect.x + 5 * px}
          y={rect.y + 31 * px}
          px={px}
          tone={tone}
        >{`${rect.width}×${rect.height}${over ? ' · reaches over' : ''}`}</Words>
      )}
      {worked && rect.height > 66 * px && (
        <Words x={rect.x + 5 * px} y={rect.y + 47 * px} px={px} tone={output !== null ? MUTED : '#f2b84b'}>
          {output ?? 'no output'}
        </Words>
      )}
    </g>
  );
});

/** Gaps and overlaps between neighbours, written where they are. */
export const Gaps = memo(function Gaps({
  screens,
  pitch,
  unit,
  px,
}: {
  screens: readonly Screen[];
  pitch: number;
  unit: LengthUnit;
  px: number;
}) {
  return betweenScreens(screens).map(({ from, to, axis, gap, at }) =>
    gap === 0 ? null : (
      <Words key={`${from.id} ${to.id} ${axis}`} x={at.x} y={at.y} px={px} middle tone={gap < 0 ? GUIDE : MUTED}>
        {`${gap < 0 ? 'overlap' : 'gap'} ${lengthWords(Math.abs(gap), pitch, unit)}`}
      </Words>
    ),
  );
});
