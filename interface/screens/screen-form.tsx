/** Numbers of one screen, or of several at once: what differs between them is empty of meaning, so only what can be shared is offered. */
import { softEdges } from '#core/screens/blend';
import { areaOf, isSideways } from '#core/screens/canvas';
import { screenOutput } from '#core/screens/outputs';
import { type Corners, type Edges, type Gain, MOST_MASKS, type Screen, type Surface, TURNS, type Turn } from '#core/screens/surface';
import { type Rect } from '#core/show/geometry';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { Check, Choice, Line, Num, Numbers, Part, ThingChoice } from '../parts/fields';
import { LengthField } from './length-field';
import { PlaceFields } from './place-fields';
import { UnitChoice } from './unit-choice';

const TURN_WORDS: Record<Turn, string> = { none: 'upright', right: 'turned right', half: 'upside down', left: 'turned left' };
const SIDES = ['left', 'top', 'right', 'bottom'] as const;
const CORNERS = [
  ['topLeft', 'Upper left'],
  ['topRight', 'Upper right'],
  ['bottomLeft', 'Lower left'],
  ['bottomRight', 'Lower right'],
] as const;
const STILL: Corners = { topLeft: { x: 0, y: 0 }, topRight: { x: 0, y: 0 }, bottomRight: { x: 0, y: 0 }, bottomLeft: { x: 0, y: 0 } };

export function ScreenForm({ surface, screens }: { surface: Surface; screens: readonly Screen[] }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const [screen] = screens;
  if (!screen) return null;
  const { pitch } = surface;
  const several = screens.length > 1;
  const set = (change: Record<string, unknown>) =>
    send('surface.setScreens', { surface: surface.id, screens: screens.map((s) => s.id), ...change });
  const { rect, area, size, edges, gain, corners, masks } = screen;
  const output = screen.outputId === null ? undefined : screenOutput(show, screen.outputId);
  const raster = output?.raster ?? show.raster;
  const own = areaOf(screen, raster);
  const inArea = (change: Partial<Rect>) => set({ area: { ...own, ...change } });
  const soft = softEdges(screen, surface.screens);
  const real = size ?? { width: rect.width * pitch, height: rect.height * pitch };
  return (
    <>
      {!several && (
        <Part title="On the canvas">
          <Line strong showLabel max={60} label="Name of the screen" value={screen.name} onSave={(name) => set({ name })} />
          <PlaceFields rect={rect} surface={surface} onPlace={(to) => set({ rect: to })} />
          <Check label="its real size is known" on={size !== null} onChange={(on) => set({ size: on ? real : null, rect })} />
          {size && (
            <Numbers>
              <Num
                label="Really wide"
                unit="m"
                digits={3}
                min={0.001}
                max={1000}
                value={size.width / 1000}
                onCommit={(m) => set({ size: { ...size, width: m * 1000 } })}
              />
              <Num
                label="Really high"
                unit="m"
                digits={3}
                min={0.001}
                max={1000}
                value={size.height / 1000}
                onCommit={(m) => set({ size: { ...size, height: m * 1000 } })}
              />
            </Numbers>
          )}
          {size && (
            <Num
              label="Pitch of its own pixels"
              unit="mm"
              digits={3}
              min={0.05}
              max={1000}
              value={size.width / (isSideways(screen.turn) ? own.height : own.width)}
              onCommit={(mm) =>
                set({
                  size: isSideways(screen.turn)
                    ? { width: own.height * mm, height: own.width * mm }
                    : { width: own.width * mm, height: own.height * mm },
                })
              }
            />
          )}
          <UnitChoice />
        </Part>
      )}
      <Part title="Fed by">
        <ThingChoice
          label="Output"
          none="no output yet"
          value={screen.outputId}
          all={show.screens.outputs}
          onChange={(outputId) => set({ outputId })}
        />
        {!several && output && (
          <p className="figures text-[13px] text-muted">
            {raster.width}×{raster.height}, of which it uses {area ? `${own.width}×${own.height} at ${own.x},${own.y}` : 'all'}
          </p>
        )}
        {!several && (
          <>
            <Check
              label="an active area of its own"
              on={area !== null}
              onChange={(on) =>
                set({
                  area: on ? { x: 0, y: 0, width: Math.min(raster.width, rect.width), height: Math.min(raster.height, rect.height) } : null,
                })
              }
            />
            {area && (
              <Numbers>
                <Num label="Area X" digits={0} min={-20000} max={20000} value={area.x} onCommit={(x) => inArea({ x })} />
                <Num label="Area Y" digits={0} min={-20000} max={20000} value={area.y} onCommit={(y) => inArea({ y })} />
                <Num label="Area width" digits={0} min={1} max={20000} value={area.width} onCommit={(width) => inArea({ width })} />
                <Num label="Area height" digits={0} min={1} max={20000} value={area.height} onCommit={(height) => inArea({ height })} />
              </Numbers>
            )}
          </>
        )}
        <Choice label="In the output" value={screen.turn} all={TURNS.map((t) => [t, TURN_WORDS[t]])} onChange={(turn) => set({ turn })} />
      </Part>
      <Part title="Blend">
        <Check label="its edges are blended where it overlaps" on={screens.every((s) => s.blends)} onChange={(blends) => set({ blends })} />
        {screen.blends && !several && (
          <>
            <Numbers>
              {SIDES.filter((side) => soft.some((e) => e.side === side)).map((side) => (
                <LengthField
                  key={side}
                  label={`At the ${side}`}
                  value={edges[side] ?? Math.max(...soft.filter((e) => e.side === side).map((e) => e.width))}
                  pitch={pitch}
                  min={0}
                  max={8000}
                  onCommit={(width) => set({ edges: { ...edges, [side]: width } satisfies Edges })}
                />
              ))}
            </Numbers>
            {soft.length === 0 && <p className="text-[13px] text-muted">No other screen that blends overlaps it.</p>}
            {SIDES.some((side) => edges[side] !== null) && (
              <Button onClick={() => set({ edges: { left: null, top: null, right: null, bottom: null } })}>As wide as the overlaps</Button>
            )}
          </>
        )}
      </Part>
      <Part title="Light">
        <div className="grid grid-cols-3 gap-1.5">
          {(['red', 'green', 'blue'] as const).map((colour) => (
            <Num
              key={colour}
              label={`${colour[0]?.toUpperCase()}${colour.slice(1)}`}
              unit="%"
              digits={1}
              min={0}
              max={100}
              value={gain[colour] * 100}
              onCommit={(percent) => set({ gain: { ...gain, [colour]: percent / 100 } satisfies Gain })}
            />
          ))}
        </div>
      </Part>
      {!several && (
        <>
          <Part
            title="Four-corner fit"
            action={
              corners && (
                <Button look="quiet" onClick={() => set({ corners: null })}>
                  None
                </Button>
              )
            }
          >
            <p className="text-[13px] text-muted">How far each corner is pulled, pixels of the output. The grid as a test picture helps.</p>
            {CORNERS.map(([corner, name]) => (
              <Numbers key={corner}>
                {(['x', 'y'] as const).map((axis) => (
                  <Num
                    key={axis}
                    label={`${name} ${axis.toUpperCase()}`}
                    min={-4000}
                    max={4000}
                    value={(corners ?? STILL)[corner][axis]}
                    onCommit={(value) =>
                      set({ corners: { ...(corners ?? STILL), [corner]: { ...(corners ?? STILL)[corner], [axis]: value } } })
                    }
                  />
                ))}
              </Numbers>
            ))}
          </Part>
          <Part
            title="Masks"
            action={
              <Button
                look="quiet"
                unusable={masks.length < MOST_MASKS ? null : `A screen has at most ${MOST_MASKS}.`}
                onClick={() => set({ masks: [...masks, { x: own.x, y: own.y, width: 100, height: own.height }] })}
              >
                + Mask
              </Button>
            }
          >
            {masks.map((mask, i) => (
              <div key={i} className="flex items-end gap-1">
                {(['x', 'y', 'width', 'height'] as const).map((side) => (
                  <Num
                    key={side}
                    className="min-w-0 flex-1"
                    label={`${side[0]?.toUpperCase()}${side.slice(1)}`}
                    digits={0}
                    min={side === 'width' || side === 'height' ? 1 : -20000}
                    max={20000}
                    value={mask[side]}
                    onCommit={(value) => set({ masks: masks.map((m, j) => (i === j ? { ...m, [side]: value } : m)) })}
                  />
                ))}
                <Button look="quiet" aria-label={`Remove mask ${i + 1}`} onClick={() => set({ masks: masks.filter((_, j) => i !== j) })}>
                  ×
                </Button>
              </div>
            ))}
            {masks.length === 0 && <p className="text-[13px] text-muted">Parts of the output that stay black, pixels of the output.</p>}
          </Part>
        </>
      )}
    </>
  );
}
